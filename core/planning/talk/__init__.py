"""Talk, planned: what a house needs to talk, which ports it goes on, how the bus runs."""
