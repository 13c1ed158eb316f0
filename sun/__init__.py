"""Where the sun stands and what it gives, on a roof and on a wall; the only room that knows pvlib.

Knows core, no server.
"""
