"""The web server: thin apps over the core; it stores, permits and serves, and computes nothing."""
