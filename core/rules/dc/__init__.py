"""The DC side: string voltages and currents, what a meter should read, what a reading means.

IEC 62548-1 and IEC 62446-1; optimisers too.
"""
