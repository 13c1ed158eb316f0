"""Microinverters: branches, trunk, units under modules, the serial map."""
