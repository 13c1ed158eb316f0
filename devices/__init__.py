"""Inverters and gateways over Modbus TCP: the client, its register maps, where it may go.

Knows core, no server and no web framework.
"""
