"""Verify: manage.py verify, whether the audit is as it was written."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError

from server.people.audit import checked_chain


class Command(BaseCommand):
    """Goes through the audit's chain of seals."""

    help = "Whether every line of the audit is as it was written, and none is missing."

    def handle(self, *args: Any, **given: Any) -> None:
        chain = checked_chain()
        if chain.broken or chain.cut_off:
            lines = ", ".join(map(str, chain.broken[:10])) or "none"
            raise CommandError(
                f"Lines that do not fit: {lines}; taken off the end: {chain.cut_off}."
            )
        self.stdout.write(f"{chain.lines} lines, as they were written. Last seal: {chain.last}")
