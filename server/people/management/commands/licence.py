"""Enter a person's licence: manage.py licence NAME NUMBER [LAST-DAY]."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from core.base.errors import Refused
from server.people.membership import enter_licence


class Command(BaseCommand):
    """Enter or renew the licence by which a person may lift locks."""

    help = "Enter a person's licence: who has one may lift the lock of a step."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("name")
        parser.add_argument("number")
        parser.add_argument("last_day", nargs="?", default="", help="as 2027-03-31")

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            day = options["last_day"]
            enter_licence(
                options["name"], options["number"], date.fromisoformat(day) if day else None
            )
        except (Refused, ValueError) as refused:
            raise CommandError(str(refused)) from None
        self.stdout.write(f"{options['name']} holds licence {options['number']}.")
