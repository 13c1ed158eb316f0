"""Job in, job out: one frozen shape for each edit, with what it does.

Typed entries are read here. An edit asks no stage; it never judges.
"""
