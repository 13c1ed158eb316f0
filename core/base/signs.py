"""Signs that no name and no note holds: they cannot be stored or printed, or turn a line round."""

from __future__ import annotations

import re

# What parts lines and cells may stand in a note. Unicode 16, UAX 9 (direction), D76 (surrogates).
SIGNS = (
    "\\x00-\\x08\\x0b\\x0c\\x0e-\\x1f\\x7f\\ud800-\\udfff"
    "\\u200e\\u200f\\u202a-\\u202e\\u2066-\\u2069"
)
UNWRITTEN = re.compile(f"[{SIGNS}]")
# The same for a schema: every text that is read.
WRITTEN = f"^[^{SIGNS}]*$"


def unwritten(text: str) -> str | None:
    """What is wrong with the signs of a text, in a sentence; None for a text like any other."""
    found = UNWRITTEN.search(text)
    if found is None:
        return None
    return f"Sign {found.start() + 1} (U+{ord(found.group()):04X}) cannot be read or printed."
