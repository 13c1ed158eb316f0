"""python manage.py load_demo"""

from __future__ import annotations

from django.core.management import call_command
from django.core.management.base import BaseCommand

from server.demo.load import load


class Command(BaseCommand):
    """Bring the database up to date; load the demo's user and jobs where there are none yet."""

    help = __doc__

    def handle(self, *args: object, **options: object) -> None:
        call_command("migrate", verbosity=0)
        load()
