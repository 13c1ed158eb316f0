"""The core in the hand: a job held where there is no server, judged after each press."""
