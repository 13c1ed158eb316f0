"""On the roof: where hooks and clamps go along each rail, as marks for the tape."""
