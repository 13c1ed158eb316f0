"""What the developers run: bench, count, generated files, mutants, fonts for the record."""
