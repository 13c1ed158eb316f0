"""Searches and layouts: what each choice would give, and what a plan needs.

Planning calls rules and knows a job; it knows no stage and no reading's verdict.
"""
