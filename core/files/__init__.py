"""Open formats in and out: job file, serial map, tester's file, test record, weather.

Read strictly, every problem with its path.
"""
