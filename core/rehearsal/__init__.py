"""A rehearsal: the job's sequence against a model of its own plant, before anything is live."""
