"""The one way by which what is kept for good may go: while a customer's data is erased."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from django.db import transaction

from server.people.models import Erasing


@contextmanager
def erasing(why: str) -> Iterator[None]:
    """Let rows that are kept for good be deleted, inside this one transaction."""
    with transaction.atomic():
        permit = Erasing.objects.create(why=why[:120])
        yield
        permit.delete()
