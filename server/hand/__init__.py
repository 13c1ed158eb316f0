"""Jobs taken along on devices that judge by themselves, and what they answer."""
