"""Earth (protective earthing and bonding): the path and its continuity."""
