"""Stage 6, Talk: every wire, radio and account between the devices, and the way out."""
