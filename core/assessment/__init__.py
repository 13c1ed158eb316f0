"""The shapes that come out: what is said of a job, stage by stage.

Frozen values only; what fills them stands in the stages.
"""
