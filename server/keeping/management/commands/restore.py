"""Restore: manage.py restore FILE [--over-data]."""

from __future__ import annotations

import os
from pathlib import Path
from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import connections

from server.keeping.backup import restore
from server.keeping.files import Unfit


class Command(BaseCommand):
    """Puts a backup in the installation's place; what stood there is kept beside it."""

    help = "Put a backup in place; refuses over jobs unless told."
    requires_system_checks = ()

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file")
        parser.add_argument("--over-data", action="store_true")

    def handle(self, *args: Any, **given: Any) -> None:
        connections.close_all()
        passphrase = os.environ.get("LONG_NOON_PASSPHRASE", "")
        try:
            looked = restore(Path(given["file"]), passphrase, over_data=given["over_data"])
        except Unfit as unfit:
            raise CommandError(str(unfit)) from None
        call_command("migrate", verbosity=0)
        told = ", ".join(f"{count} {name}" for name, count in looked.counts.items())
        self.stdout.write(f"Restored: {told}.")
