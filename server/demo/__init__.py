"""The demo: an invented village, its jobs and its one user. Real job files, moved to today."""
