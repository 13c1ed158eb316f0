"""Weeks over jobs: visits of crews, who is away, what clashes."""
