"""Jobs as rows, changed by the core's edits; a job as its screens show it.

`stored.to_core` is the one place where rows become a core value.
"""
