"""Whole libraries of modules and inverters in the open CSV of the System Advisor Model.

A library row gives electrical figures and not all that a sheet needs: what it does not say (the
highest system voltage, a tracker's currents) is left open, for the label to answer. So a row is no
sheet; it fills the form of one. Units are the file's own: volts and amperes per kelvin become
percent, metres become millimetres. Source: NREL SAM, libraries of CEC modules and inverters.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from itertools import takewhile

from core.base.delimited import rows_of
from core.base.errors import Problem, Refused, problem
from core.base.limits import MOST_SHELF_BYTES
from core.equipment.catalogue import Kind
from core.equipment.catalogue_csv import PROGRESS_EVERY, Progress, columns

MOST_LIBRARY_ROWS = 60_000
# Below the names stand a row of units and a row of the model's own names.
HEADS = ("Units", "[0]")
MM_PER_M, PCT = 1000.0, 100.0
DIGITS = 5
MOST_NAME, MOST_PROBLEMS = 60, 20
Row = dict[str, str]


@dataclass(frozen=True, kw_only=True)
class LibraryEntry:
    """One row of a library: its name, the fields of a sheet that it fills, and what it leaves open.

    missing: the names of required columns that nobody said yet.
    """

    name: str
    cells: dict[str, str]
    missing: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class Library:
    """What a library file gave. left_out: rows whose figures are none, by their line."""

    entries: tuple[LibraryEntry, ...]
    left_out: tuple[int, ...]


def _figure(value: float) -> str:
    return f"{round(value, DIGITS):g}"


def _module(row: Row) -> dict[str, str]:
    voc_v, isc_a = float(row["V_oc_ref"]), float(row["I_sc_ref"])
    sides = {
        name: _figure(MM_PER_M * float(row[column]))
        for name, column in (("long_mm", "Length"), ("short_mm", "Width"))
        if row.get(column)
    }
    return {
        "pmax_w": _figure(float(row["STC"])),
        "voc_v": _figure(voc_v),
        "vmp_v": _figure(float(row["V_mp_ref"])),
        "isc_a": _figure(isc_a),
        "imp_a": _figure(float(row["I_mp_ref"])),
        "beta_voc_pct_per_k": _figure(PCT * float(row["beta_oc"]) / voc_v),
        "alpha_isc_pct_per_k": _figure(PCT * float(row["alpha_sc"]) / isc_a),
        "gamma_pmax_pct_per_k": _figure(float(row["gamma_r"])),
        "noct_c": _figure(float(row["T_NOCT"])),
        "cells_in_series": _figure(float(row["N_s"])),
        "bifacial": "yes" if row.get("Bifacial") == "1" else "no",
        **sides,
    }


def _inverter(row: Row) -> dict[str, str]:
    return {
        "rated_ac_w": _figure(float(row["Paco"])),
        "nominal_v": _figure(float(row["Vac"])),
        "dc.max_dc_v": _figure(float(row["Vdcmax"])),
        "dc.track_min_v": _figure(float(row["Mppt_low"])),
        "dc.track_max_v": _figure(float(row["Mppt_high"])),
    }


# By kind: the columns by which such a file is known, and what fills a sheet from its row.
KNOWN_BY: dict[Kind, tuple[str, Callable[[Row], dict[str, str]]]] = {
    "modules": ("V_oc_ref", _module),
    "inverters": ("Vdcmax", _inverter),
}


def is_library(raw: bytes) -> bool:
    """Whether a file is a whole library: by its row of units."""
    lines = raw[:8192].decode("utf-8", "replace").splitlines()
    return len(lines) > 1 and lines[1].startswith(f"{HEADS[0]},")


def read_library(kind: Kind, raw: bytes) -> Iterator[Progress | Library]:
    """The rows of a library: progress on the way, then what was read.

    Raises Refused: not a library of that kind, too large, or with no row that can be read.
    """
    if len(raw) > MOST_SHELF_BYTES:
        allowed = f"at most {MOST_SHELF_BYTES // 1024 // 1024} MB"
        raise Refused([problem("file", f"{len(raw) / 1024 / 1024:.0f} MB", allowed)])
    rows = rows_of(raw.decode("utf-8-sig", "replace"))
    header = rows[0][1] if rows else []
    known, fill = KNOWN_BY.get(kind, ("", _module))
    if not known or known not in header:
        kinds = " or ".join(KNOWN_BY)
        said = f"This is no library of {kind}: there are such of {kinds}, each read in on its own."
        raise Refused([problem("file", ", ".join(header)[:60], kinds, said)])
    data = rows[1 + len(list(takewhile(lambda row: row[1][0] in HEADS, rows[1:]))) :]
    if len(data) > MOST_LIBRARY_ROWS:
        allowed = f"at most {MOST_LIBRARY_ROWS} rows"
        raise Refused([problem("file", f"{len(data)} rows", allowed)])
    required = [column.name for column in columns(kind) if column.required]
    entries: dict[str, LibraryEntry] = {}
    left_out: list[int] = []
    for index, (number, cells) in enumerate(data):
        if index % PROGRESS_EVERY == 0:
            yield Progress(checked=index, rows=len(data))
        row = dict(zip(header, cells, strict=False))
        try:
            filled = _named(row) | fill(row)
        except (KeyError, ValueError, ZeroDivisionError):
            left_out.append(number)
            continue
        missing = tuple(name for name in required if name not in filled)
        entries[row["Name"]] = LibraryEntry(name=row["Name"], cells=filled, missing=missing)
    if not entries:
        raise Refused(_nothing(left_out))
    yield Library(entries=tuple(entries.values()), left_out=tuple(left_out))


def _named(row: Row) -> dict[str, str]:
    """What a row is called: its maker up to the first word with a figure in it, unless it says."""
    name = row["Name"].strip()
    maker, _, model = name.partition(": ")
    if not model:
        words = name.split()
        first = next((n for n, word in enumerate(words) if n and re.search(r"\d", word)), 1)
        maker, model = " ".join(words[:first]), " ".join(words[first:])
    slug = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")
    return {
        "id": slug[:MOST_NAME],
        "maker": (row.get("Manufacturer") or maker)[:MOST_NAME],
        "model": (model or name)[:MOST_NAME],
        "sheet_revision": (row.get("Version") or row.get("CEC_Date") or "library")[:MOST_NAME],
    }


def _nothing(left_out: list[int]) -> list[Problem]:
    said = (
        f"No row of this library could be read; the first is line {left_out[0] if left_out else 2}."
    )
    return [problem("file", f"{len(left_out)} rows", "rows with figures", said)]
