"""What everything else is made of: quantities, units, limits, errors, the form reader, the one

judgement shape, words, drawing primitives, the palette.
Nothing here knows a job, a sheet or a rule.
"""
