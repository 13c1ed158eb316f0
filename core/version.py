"""Which core this is: known by its files, wherever they run.

``python3 -m core.version`` prints it.
"""

from __future__ import annotations

import hashlib
from functools import cache
from pathlib import Path

CORE = Path(__file__).parent
# Neither judges anything.
LEFT_OUT = ("tests", "__pycache__")
SHOWN_CHARS = 12


@cache
def core_version() -> str:
    """The first signs of the digest over every file of the core but its tests."""
    made = hashlib.sha256()
    for file in core_files():
        made.update(file.relative_to(CORE).as_posix().encode() + b"\0")
        made.update(hashlib.sha256(file.read_bytes()).digest())
    return made.hexdigest()[:SHOWN_CHARS]


def core_files() -> list[Path]:
    """Every file of the core that judges or is read by what judges, in one order."""
    every = (file for file in CORE.rglob("*") if file.is_file())
    return sorted(file for file in every if not set(LEFT_OUT) & set(file.parts[len(CORE.parts) :]))


if __name__ == "__main__":
    print(core_version())
