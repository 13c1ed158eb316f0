"""Where a house stands: towns by name, coordinates in any usual form, time zones."""
