"""The AC side: runs, voltage rise, conductors, protection, switching, terminations, backup.

IEC 60364 and its national cousins; figures come from the packs.
"""
