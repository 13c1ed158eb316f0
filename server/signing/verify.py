"""``python -m server.signing.verify FILE``: is a record as it was signed? 0: yes, 1: no."""

from __future__ import annotations

import hashlib
import os
import sys
import zipfile
from pathlib import Path

from server.signing.seal import Verified, verify

HOLDS, ALTERED, NO_FILE = 0, 1, 2


def main(arguments: list[str]) -> int:
    """Look at a file and say what it is; gives the exit code."""
    if len(arguments) != 1 or not Path(arguments[0]).is_file():
        sys.stderr.write(f"There is no file {' '.join(arguments)}.\n")
        return NO_FILE
    file = Path(arguments[0])
    found = verify(file.read_bytes()) if zipfile.is_zipfile(file) else _among_ours(file)
    sys.stdout.write("As signed.\n" if found.holds else "NOT as signed.\n")
    for line in found.lines:
        sys.stdout.write(f"  {line}\n")
    return HOLDS if found.holds else ALTERED


def _among_ours(file: Path) -> Verified:
    """A single file of a record, looked for among the versions that are kept here."""
    import django  # a whole record is verified without it

    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")
    django.setup()
    from django.db import DatabaseError

    from server.signing.models import SealedRow

    digest = hashlib.sha256(file.read_bytes()).hexdigest()
    try:
        known = SealedRow.with_member(digest)
    except DatabaseError:
        known = None  # nothing was ever kept here
    if known is None:
        said = "It is part of no version that was signed here; verify the whole record, a ZIP."
        return Verified(holds=False, lines=(said,))
    return Verified(holds=True, lines=(known,))


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
