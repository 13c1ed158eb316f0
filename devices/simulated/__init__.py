"""Inverters that exist only on the network, for the demo and the tests."""
