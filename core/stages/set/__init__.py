"""Set (grid protection settings): profile against device, point by point, and its trials."""
