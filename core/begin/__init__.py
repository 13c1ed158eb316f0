"""Beginning a job: one question at a time, each answer judged at once, nothing assumed."""
