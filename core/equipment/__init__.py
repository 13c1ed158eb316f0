"""Equipment as values, checked at construction."""
