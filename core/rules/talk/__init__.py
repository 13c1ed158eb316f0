"""Talk (communication): ports, buses, clamps, what reports, what a status row says."""
