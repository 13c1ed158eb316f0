"""Rows that are written once: no change, no deletion."""

from __future__ import annotations

from typing import Any

from django.db import models


class AppendOnly(models.Model):
    """Base of rows that are kept for good; a database trigger refuses updates as well."""

    class Meta:
        abstract = True

    def save(self, *args: Any, **kwargs: Any) -> None:
        if self.pk is not None:
            raise TypeError("this row is kept for good; write a new one that supersedes it")
        super().save(*args, **kwargs)

    def delete(self, *args: Any, **kwargs: Any) -> tuple[int, dict[str, int]]:
        raise TypeError("this row is kept for good")


def no_update_trigger(table: str) -> str:
    """SQL for a trigger that refuses every update of a table."""
    return (
        f"CREATE TRIGGER {table}_is_append_only BEFORE UPDATE ON {table} "
        f"BEGIN SELECT RAISE(ABORT, '{table} is append-only'); END;"
    )
