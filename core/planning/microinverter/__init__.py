"""The roof of microinverters to scale: places of units, branches, trunk, parts."""
