"""Putting sheets and rule packs on the shelf: checked, whole or not at all, and audited."""

from __future__ import annotations

import hashlib
from collections.abc import Collection, Iterator
from dataclasses import replace

from django.contrib.auth.models import User
from django.db import transaction

from core.base.errors import Problem, Refused, problem
from core.base.form import write
from core.equipment.catalogue import Kind
from core.equipment.catalogue_csv import Progress, Reading, read_table, sheet_of
from core.equipment.catalogue_json import read_json
from core.equipment.library import Library, is_library, read_library
from core.equipment.sheet import Sheet
from core.figures.overrides import OwnPack
from core.files.weather import Climate
from server.catalogue.models import ClimateRow, LibraryRow, PackRow, SheetRow
from server.catalogue.stored import shelf_of
from server.people.audit import audit, shown_name
from server.people.policy import crew_of

SHOWN_PROBLEMS = 20


def keep_sheet(person: User, kind: Kind, cells: dict[str, str], *, as_given: bool) -> Sheet:
    """Put a typed sheet on the shelf. Raises Refused; then the shelf is as it was.

    Whoever types a sheet has held it against the maker's: their name is written on it.
    """
    checked = cells.get("checked_by", "").strip() or shown_name(person)
    sheet = sheet_of(kind, cells | {"checked_by": checked}, as_given=as_given)
    with transaction.atomic():
        _put(person, kind, [sheet])
        audit(person, None, "sheet kept", f"{kind} {sheet.id} {sheet.sheet_revision}")
    return sheet


def keep_climate(person: User, raw: bytes, found: Climate) -> Climate:
    """Keep what a weather file says for the crew's next jobs near there; a file once."""
    ClimateRow.objects.update_or_create(
        crew=crew_of(person),
        sha256=hashlib.sha256(raw).hexdigest(),
        defaults={"data": write(found), "added_by": person},
    )
    return found


def take_in(
    person: User, kind: Kind, raw: bytes, *, as_given: bool
) -> Iterator[Progress | Reading | Library]:
    """Put the sheets of a CSV or JSON file on the shelf, or the rows of a whole library beside it:
    progress, then what was read.

    Raises Refused with every problem; then the shelf is as it was.
    """
    if is_library(raw):
        yield from _take_in_library(person, kind, raw)
        return
    is_json = raw.lstrip(b"\xef\xbb\xbf \r\n\t")[:1] in (b"{", b"[")
    reader = read_json if is_json else read_table
    for step in reader(kind, raw, as_given=as_given):
        if isinstance(step, Reading):
            with transaction.atomic():
                _put(person, kind, step.sheets)
                audit(person, None, "sheets read in", f"{len(step.sheets)} {kind}")
        yield step


def _take_in_library(person: User, kind: Kind, raw: bytes) -> Iterator[Progress | Library]:
    for step in read_library(kind, raw):
        if isinstance(step, Library):
            with transaction.atomic():
                _put_library(person, kind, step)
        yield step


def _put_library(person: User, kind: Kind, library: Library) -> None:
    crew = crew_of(person)
    LibraryRow.objects.bulk_create(
        [
            LibraryRow(
                crew=crew, kind=kind, name=one.name, cells=one.cells, missing=list(one.missing)
            )
            for one in library.entries
        ],
        batch_size=500,
        update_conflicts=True,
        unique_fields=["crew", "kind", "name"],
        update_fields=["cells", "missing"],
    )
    audit(person, None, "library read in", f"{len(library.entries)} {kind}")


def _put(person: User, kind: Kind, sheets: Collection[Sheet]) -> None:
    """Write the sheets that differ from what stands; a changed one needs a new revision."""
    shelf = shelf_of(person)
    there = shelf.standing(kind, {sheet.id for sheet in sheets})
    fresh = [sheet for sheet in sheets if there.get(sheet.id) != sheet]
    found = [
        _same_revision(sheet)
        for sheet in fresh
        if sheet.id in there and _figures(there[sheet.id]) != _figures(sheet)
        if there[sheet.id].sheet_revision == sheet.sheet_revision
    ]
    if found:
        raise Refused(found[:SHOWN_PROBLEMS])
    SheetRow.objects.bulk_create(
        [
            SheetRow(
                kind=kind,
                sheet_id=sheet.id,
                data=write(sheet),
                crew=shelf.crew,
                added_by=person,
            )
            for sheet in fresh
        ],
        batch_size=500,
    )


def _figures(sheet: Sheet) -> Sheet:
    return replace(sheet, checked_by="")


def _same_revision(sheet: Sheet) -> Problem:
    said = (
        f"{sheet.label} stands on the shelf as revision {sheet.sheet_revision} with other "
        "figures. Give the changed sheet a revision of its own."
    )
    return problem("$.sheet_revision", sheet.sheet_revision, "a new revision", said)


def withdraw(person: User, kind: Kind, sheet_id: str) -> None:
    """Take a sheet off the shelf; jobs that hold it keep it. Raises Refused when unknown."""
    with transaction.atomic():
        shelf = shelf_of(person)
        if sheet_id not in shelf.standing(kind, {sheet_id}):
            raise Refused([problem("$.id", sheet_id, "a sheet on the shelf")])
        SheetRow.objects.create(
            kind=kind, sheet_id=sheet_id, data=None, crew=shelf.crew, added_by=person
        )
        audit(person, None, "sheet taken off the shelf", f"{kind} {sheet_id}")


def keep_pack(person: User, pack: OwnPack) -> None:
    """Put a rule pack of the crew's own on the shelf; jobs that hold an earlier one keep it."""
    with transaction.atomic():
        PackRow.objects.create(
            pack_id=pack.id, data=write(pack), crew=crew_of(person), added_by=person
        )
        audit(person, None, "rule pack kept", f"{pack.id}, {len(pack.figures)} figures")
