"""The day (scheduling): what there is to do, counted, and why each thing lies where it lies."""
