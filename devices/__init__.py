"""Inverters on the network: the client that sets them, and simulated ones that ship with the app.

Everything goes over Modbus TCP with the open SunSpec register models, so that a real inverter
can take the simulated one's place.
"""
