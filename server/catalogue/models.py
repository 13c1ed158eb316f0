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


class LibraryRow(models.Model):
    """A row of a whole library that the crew read in: figures that fill a sheet, and are none yet.

    cells, missing: as the library entry has them. Reading a newer library in writes it anew.
    """

    kind = models.CharField(max_length=30)
    name = models.CharField(max_length=200)
    cells = models.JSONField()
    missing = models.JSONField()
    crew = models.ForeignKey("people.Crew", on_delete=models.PROTECT)

    class Meta:
        ordering = ["name"]
        constraints = [
            models.UniqueConstraint(fields=["crew", "kind", "name"], name="library_row_once")
        ]


class ClimateRow(models.Model):
    """The design air of a weather file that the crew read in; the file itself is not kept.

    data: as it was read, with the place that the file is of.
    """

    sha256 = models.CharField(max_length=64)
    data = models.JSONField()
    crew = models.ForeignKey("people.Crew", on_delete=models.PROTECT)
    added_at = models.DateTimeField(auto_now_add=True)
    added_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["crew", "sha256"], name="weather_once")]


class PackRow(AppendOnly):
    """One revision of a rule pack that the crew made, for good; the latest counts."""

    pack_id = models.CharField(max_length=60)
    data = models.JSONField()
    crew = models.ForeignKey("people.Crew", null=True, on_delete=models.PROTECT)
    added_at = models.DateTimeField(auto_now_add=True)
    added_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)

    class Meta:
        ordering = ["id"]
