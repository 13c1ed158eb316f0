"""Rule packs, grid profiles, figures replaced: every number that a rule takes, with its source.

The numbers themselves lie in core/data. No sheet and no job is known here.
"""
