"""The permissions, computed in one place from everything that the stages say: closed by default.

Here lives what a hand may do now. No stage grants anything of its own; a judgement that a
permission may pass is named in data/permissions.json, with its reason.
"""
