"""People: who is signed in, and the audit line of every change."""
