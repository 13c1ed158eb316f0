"""The sun over a job's site, as its screens show it."""
