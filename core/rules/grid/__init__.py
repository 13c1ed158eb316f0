"""Grid protection settings: profile against supply and device, response to export, loss of supply."""
