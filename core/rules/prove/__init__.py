"""Verification (IEC 62446-1): instruments, insulation, residual devices, steps seen."""
