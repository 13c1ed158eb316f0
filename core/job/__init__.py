"""One house: its plan, and what was read of it. Nothing that can be computed.

Readings have their kinds in one table; older files are brought to the present version here.
No judgement is made here.
"""
