"""Grid settings: each writing of a profile to an inverter, kept for good."""
