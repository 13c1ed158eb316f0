"""Edits of a roof of microinverters."""
