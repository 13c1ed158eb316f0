"""Simulated inverters and gateways over the same line, with faults to order.

A real device can take their place.
"""
