"""Guests: a link to one job's record, for who asks for it, until a day."""
