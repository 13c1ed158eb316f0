"""What every app stands on: problems, bodies, append-only rows, the page, the test runner.

No noun of the job.
"""
