"""Weeks over jobs: visits of crews on one board, who is away, calendars out and busy times in."""
