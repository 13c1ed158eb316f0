"""The installation's one file: backed up, restored, checked, and looked at before it is served."""
