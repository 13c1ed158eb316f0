"""The bench: a string without a job."""
