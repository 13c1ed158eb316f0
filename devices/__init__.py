"""Inverters, gateways, meters over Modbus TCP, portals over HTTP: clients and where they may go.

Knows core, no server and no web framework.
"""
