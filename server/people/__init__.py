"""Who signs in, with which licence, and the audit.

One policy answers who may.
"""
