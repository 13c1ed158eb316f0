"""Wake (energisation): sequences with their conditions, steps, switches."""
