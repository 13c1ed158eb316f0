"""The bench without a job."""
