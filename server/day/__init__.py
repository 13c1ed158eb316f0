"""The day of a job: laid along the sun over its site, for its crew, over its visits."""
