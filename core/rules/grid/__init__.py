"""Grid protection: profile against supply and device, response to export, loss of supply."""
