"""The plant's meter, read over its open registers."""
