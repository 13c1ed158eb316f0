"""The maker's portal: the plant entered there, and what it has heard."""
