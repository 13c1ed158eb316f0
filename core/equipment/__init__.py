"""Sheets of equipment and their catalogue, as tables and as JSON.

What a device is; not what it is used for in a job. No rule judges here.
"""
