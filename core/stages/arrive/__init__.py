"""Arrive: goods, nameplate, permit, people."""
