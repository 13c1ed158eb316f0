"""The crew's own sheets and rule packs, every revision of each."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from server.platform.append_only import AppendOnly


class SheetRow(AppendOnly):
    """One revision of one sheet, for good; the latest of an identity is what the shelf shows.

    data: the sheet as its file has it; None when the sheet was taken off the shelf.
    """

    kind = models.CharField(max_length=30)
    sheet_id = models.CharField(max_length=60)
    data = models.JSONField(null=True)
    crew = models.ForeignKey("people.Crew", null=True, on_delete=models.PROTECT)
    added_at = models.DateTimeField(auto_now_add=True)
    added_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["kind", "sheet_id"], name="sheet_by_identity")]


class PackRow(AppendOnly):
    """One revision of a rule pack that the crew made, for good; the latest counts."""

    pack_id = models.CharField(max_length=60)
    data = models.JSONField()
    crew = models.ForeignKey("people.Crew", null=True, on_delete=models.PROTECT)
    added_at = models.DateTimeField(auto_now_add=True)
    added_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)

    class Meta:
        ordering = ["id"]
