"""Feed (AC side): the energy path, its runs, devices, ends, voltage rise, making dead."""
