"""The day: tasks laid along the sun for a crew, over visits: what binds them, and what breaks."""
