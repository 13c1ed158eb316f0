"""Records: the job as a page to sign."""
