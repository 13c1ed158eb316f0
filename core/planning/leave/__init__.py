"""What leaves with the job: which labels its plan needs, what its owner is told."""
