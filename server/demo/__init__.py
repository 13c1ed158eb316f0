"""The demo's jobs and rosters, invented, and how they are loaded."""
