"""The sun over a roof: position, clear sky, the day's length. The only place that knows pvlib."""
