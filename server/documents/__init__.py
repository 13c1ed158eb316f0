"""The record and the sheets as PDF, SVG, DXF, CSV.

Typeset from the assessment; nothing is computed here.
"""
