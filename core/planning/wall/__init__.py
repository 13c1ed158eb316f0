"""Places on a wall, and what keeps them free."""
