"""Crews and who belongs to them, how they sign in, what each may do, and the audit.

One policy answers who may.
"""
