"""String and Hang of a roof of microinverters: units, branches, map, gateway, replacement."""
