"""Prove (verification, IEC 62446-1): the test record."""
