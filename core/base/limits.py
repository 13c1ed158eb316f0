"""How large what comes from elsewhere may be: bytes, rows, columns, pixels, and its moments."""

from __future__ import annotations

from datetime import date, timedelta

BYTES_PER_MB = 1024 * 1024
# A job with 20 000 readings is about 8 MB; beyond this a file is not a job.
MOST_JOB_BYTES = 16 * BYTES_PER_MB
MOST_SHELF_BYTES = 16 * BYTES_PER_MB
# Ten years of hours as a table are about 6 MB.
MOST_WEATHER_BYTES = 12 * BYTES_PER_MB
# A year of a full calendar is well below.
MOST_CALENDAR_BYTES = 4 * BYTES_PER_MB
MOST_TESTER_BYTES = 2 * BYTES_PER_MB
MOST_MAP_BYTES = 2 * BYTES_PER_MB
MOST_PICTURE_BYTES = 12 * BYTES_PER_MB
# All pictures, manuals and papers of one inverter together: what a bundle may hold, and some room.
MOST_ATTACHED_BYTES = 192 * BYTES_PER_MB
# A job with its pictures.
MOST_BUNDLE_BYTES = 256 * BYTES_PER_MB
MOST_BUNDLE_MEMBERS = 4000
# Twenty years of hours; the widest sheet has 133 columns.
MOST_ROWS = 200_000
MOST_COLUMNS = 500
# A JPEG is opened at a fraction of its size; a PNG cannot be.
MOST_JPEG_PIXELS = 60_000_000
MOST_PNG_PIXELS = 25_000_000
# No house of ours was wired before, none is planned for after.
EARLIEST, LATEST = date(1990, 1, 1), date(2199, 12, 31)
# Clocks of two devices differ by a little: this much is no claim of what has not been yet.
CLOCK_DOUBT = timedelta(minutes=5)
