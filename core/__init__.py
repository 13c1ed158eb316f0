"""The rules of the job: pure functions over frozen values, standard library only."""
