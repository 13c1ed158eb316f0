"""The rules of one stage, called in order; a folder for each stage of the day.

A stage makes its part of the assessment and what is to be read. No stage grants for another.
"""
