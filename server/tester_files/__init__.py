"""Testers' files: looked at, then kept whole."""
