"""On the wall: clearances, fixings, hole marks, sun."""
