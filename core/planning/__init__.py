"""Plans: what each choice would give, found once and kept ready."""
