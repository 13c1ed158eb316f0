"""Back up: manage.py backup FILE, or --nightly into the folder of backups."""

from __future__ import annotations

import os
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser

from server.keeping.backup import back_up, nightly
from server.keeping.files import Unfit


class Command(BaseCommand):
    """A copy of everything, while people go on working."""

    help = "Copy the whole installation to a file; LONG_NOON_PASSPHRASE encrypts it."
    requires_system_checks = ()

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", nargs="?")
        parser.add_argument("--nightly", action="store_true")

    def handle(self, *args: Any, **given: Any) -> None:
        passphrase = os.environ.get("LONG_NOON_PASSPHRASE", "")
        if not given["nightly"] and not given["file"]:
            raise CommandError("Say which file: backup FILE.")
        try:
            made = (
                nightly(settings.BACKUPS, settings.BACKUPS_KEPT, passphrase)
                if given["nightly"]
                else back_up(Path(given["file"]), passphrase)
            )
        except Unfit as unfit:
            raise CommandError(str(unfit)) from None
        told = ", ".join(f"{count} {name}" for name, count in made.looked.counts.items())
        sealed = "encrypted, " if made.encrypted else ""
        self.stdout.write(f"{made.file}: {sealed}checked, {made.size_bytes} bytes, {told}.")
