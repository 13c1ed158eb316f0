"""A model of the job's own plant, in which any switch may be moved.

Nothing is kept of it.
"""
