"""Looks at what a plant gave after the day: typed, from a portal's file, from the device."""
