"""Leave: labels, open points by who must act, signatures, the looks afterwards."""
