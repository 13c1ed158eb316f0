"""Inverters, gateways and meters over Modbus TCP, portals over HTTP: the client, its register maps, where it may go.

Knows core, no server and no web framework.
"""
