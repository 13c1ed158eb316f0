"""Laying the day: the only room that knows the constraint solver. Plain values in and out."""
