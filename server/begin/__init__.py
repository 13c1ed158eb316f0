"""Beginning a job: what was answered so far, kept until it is a job; places, and where they lie."""
