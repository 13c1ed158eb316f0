"""A customer's data taken out whole, and erased for good."""
