"""Gateways of roof units: each look at what one lists, kept for good."""
