"""What must be on the drive, counted from the plan."""
