"""Simulated inverters, gateways, meters and a portal over the same line, with faults to order.

A real device can take their place.
"""
