"""Pictures and documents kept as evidence of a step."""
