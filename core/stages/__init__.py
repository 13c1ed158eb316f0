"""One file per stage: the rules of that stage called in order on a job."""
