"""Profiles written to an inverter and read back; live values."""
