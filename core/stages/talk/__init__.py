"""Talk (communication): ports, wires, bus, meter, pairing, access, the way out of the house."""
