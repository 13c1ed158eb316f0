"""A tester's file: looked at, then kept whole or not at all."""
