"""Leave: labels, signatures, what the plant should give, and what was seen of it later."""
