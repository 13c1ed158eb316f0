"""Before serving: manage.py look_at_start, in plain sentences; migrates an older file."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError

from server.keeping.backup import back_up
from server.keeping.files import Unfit, database_file, held
from server.keeping.start import looked_at_start


class Command(BaseCommand):
    """Looks at the file, its folder, the disk, the clock and the last backup."""

    help = "What stands in the way of serving; then the file is brought up to date."
    requires_system_checks = ()

    def handle(self, *args: Any, **given: Any) -> None:
        try:
            with held("served"):
                self._look()
        except Unfit as unfit:
            raise CommandError(str(unfit)) from None

    def _look(self) -> None:
        start = looked_at_start()
        for note in start.notes:
            self.stderr.write(note)
        if not start.older or start.read_only:
            return
        if database_file().exists():
            name = f"before-update-{datetime.now(UTC):%Y-%m-%d-%H%M%S}.backup"
            back_up(settings.BACKUPS / name)
        call_command("migrate", verbosity=0)
