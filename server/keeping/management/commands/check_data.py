"""Check: manage.py check_data, and verify for the audit alone."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError

from server.keeping.checks import check_data


class Command(BaseCommand):
    """Goes through everything that is kept."""

    help = "Integrity, foreign keys, digests, jobs, orphans, audit."

    def handle(self, *args: Any, **given: Any) -> None:
        wrong = 0
        for found in check_data():
            wrong += bool(found.wrong)
            self.stdout.write(
                f"{'NOT SO' if found.wrong else 'ok'}  {found.what}{_told(found.wrong)}"
            )
        if wrong:
            raise CommandError(f"{wrong} things are not as they should be.")


def _told(wrong: str) -> str:
    return f": {wrong}" if wrong else ""
