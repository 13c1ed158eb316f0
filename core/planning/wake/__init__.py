"""Which order of switching a job takes."""
