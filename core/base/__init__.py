"""What everything else is made of: quantities, errors, the form reader, the judgement, words.

Drawing primitives and the palette too. Nothing here knows a job, a sheet or a rule.
"""
