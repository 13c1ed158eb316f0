"""What the text of a nameplate says: which sheets it may name, and figures by their usual marks.

The text comes from a picture, and whatever reads pictures mistakes letters and commas. So nothing
of it counts: names are offered, figures stand in a form to be compared with the label. What a
label must say: IEC 61730-1 and IEC 62109-1, their clauses on marking.
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass

from core.equipment.catalogue import Kind
from core.equipment.catalogue_csv import columns, flat
from core.equipment.sheet import Sheet

# Letters and digits that are taken for each other in print.
FOLD = str.maketrans("OQILSBZG", "00115826")
LEAST_NAME, MOST_OFFERED = 4, 6
W_PER_KW = 1000.0
# A label may be rounded where the sheet is not: three digits of each figure.
ROUNDED = 0.005
# Between a mark and its figure: words, dots, brackets, a unit in brackets; no other figure.
GAP = r"[^\d\n+±−-]{0,28}?"
# Three digits behind a comma or point may be thousands: such a figure is none.
NUMBER = r"([-−]?\d{1,5}(?:[.,]\d{1,2})?)(?![.,]?\d)"
TO = r"\s*[VA]?\s*(?:-|–|—|~|to|\.{2,3}|…)\s*"


@dataclass(frozen=True, kw_only=True)
class Mark:
    """How a figure is marked on a label. fields: two where it is a range, else one."""

    fields: tuple[str, ...]
    named: str
    unit: str


@dataclass(frozen=True, kw_only=True)
class Named:
    """A sheet whose name stands on the label. differs: names of fields of which the label gives
    another figure than the sheet: another revision, or read wrong.
    """

    id: str
    differs: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class LabelRead:
    """What a label's text gives. named: sheets that it may mean, the likeliest first.

    cells: fields of a sheet of that kind, as typed; missing: names of required columns that the
    text does not say.
    """

    named: tuple[Named, ...]
    cells: dict[str, str]
    missing: tuple[str, ...]


MODULE_MARKS = (
    Mark(
        fields=("pmax_w",),
        named=r"P\s?max|P\s?mpp?|(?:maximum|max\.?|rated|nominal|peak) power(?! (?:volt|curr))",
        unit="Wp?|kWp?",
    ),
    Mark(fields=("voc_v",), named=r"[VU]\s?oc|open[- ]?circuit voltage", unit="V"),
    Mark(
        fields=("vmp_v",),
        named=r"[VU]\s?mpp?|[VU]pm|voltage at (?:maximum|max\.?|most) power|"
        r"(?:maximum|max\.?|rated) power voltage",
        unit="V",
    ),
    Mark(fields=("isc_a",), named=r"I\s?sc|short[- ]?circuit current", unit="A"),
    Mark(
        fields=("imp_a",),
        named=r"I\s?mpp?|Ipm|current at (?:maximum|max\.?|most) power|"
        r"(?:maximum|max\.?|rated) power current",
        unit="A",
    ),
    Mark(
        fields=("max_system_v",),
        named=r"(?:maximum|max\.?|highest)?\s*system voltage|[VU]\s?sys",
        unit="V",
    ),
    Mark(
        fields=("max_series_fuse_a",),
        named=r"(?:maximum|max\.?)?\s*series fuse(?: rating)?|over-?current protection(?: rating)?",
        unit="A",
    ),
)
INVERTER_MARKS = (
    Mark(
        fields=("rated_ac_w",),
        named=r"(?:rated|nominal)(?: AC)?(?: output)?(?: active)? power|P\s?ac,?\s?r",
        unit="W|kW",
    ),
    Mark(
        fields=("nominal_v",),
        named=r"(?:rated|nominal)(?: AC)?(?: grid| output| mains)? voltage|[VU]\s?ac,?\s?r",
        unit="V",
    ),
    Mark(
        fields=("dc.max_dc_v",),
        named=r"(?:maximum|max\.?|highest)(?: DC| PV)?(?: input)? voltage|"
        r"[VU]\s?(?:dc|pv),?\s?max|[VU]\s?max\s?PV",
        unit="V",
    ),
    Mark(
        fields=("dc.track_min_v", "dc.track_max_v"),
        named=r"(?:MPPT?|tracking|[VU]\s?mpp)(?: operating)?(?: voltage)?(?: range)?",
        unit="V",
    ),
    Mark(
        fields=("trackers.1.max_operating_a",),
        named=r"(?:maximum|max\.?|most)(?: DC| PV)?(?: input| operating)? current|"
        r"I\s?(?:dc|pv),?\s?max",
        unit="A",
    ),
    Mark(
        fields=("trackers.1.max_short_circuit_a",),
        named=r"(?:maximum|max\.?)?(?: DC| PV)?(?: input)? ?short[- ]?circuit current|"
        r"I\s?sc\s?(?:PV)?",
        unit="A",
    ),
)
MARKS: dict[Kind, tuple[Mark, ...]] = {"modules": MODULE_MARKS, "inverters": INVERTER_MARKS}


def label_read(kind: Kind, text: str, sheets: Iterable[Sheet]) -> LabelRead:
    """Sheets that a label's text may name, and what it says of a sheet of its kind."""
    cells = _figures(text, MARKS.get(kind, ()))
    required = [column.name for column in columns(kind) if column.required]
    return LabelRead(
        named=_named(text, sheets, cells),
        cells=cells,
        missing=tuple(name for name in required if name not in cells),
    )


def _named(text: str, sheets: Iterable[Sheet], cells: dict[str, str]) -> tuple[Named, ...]:
    """Sheets whose model stands in the text, those with their maker and the longest names first."""
    folded = _folded(text)
    found = []
    for sheet in sheets:
        maker, model = _folded(sheet.maker), _folded(sheet.model)
        has_maker = bool(maker) and maker in folded
        if model and model in folded and (has_maker or len(model) >= LEAST_NAME):
            named = Named(id=sheet.id, differs=_differing(flat(sheet), cells))
            found.append((not has_maker, -len(model), sheet.id, named))
    return tuple(named for *_, named in sorted(found, key=lambda one: one[:3])[:MOST_OFFERED])


def _differing(own: dict[str, str], cells: dict[str, str]) -> tuple[str, ...]:
    """Fields of which a sheet and a label say figures further apart than they are rounded."""
    return tuple(
        name
        for name, text in cells.items()
        if name in own and abs(float(own[name]) - float(text)) > ROUNDED * abs(float(text))
    )


def _folded(text: str) -> str:
    return re.sub(r"[^A-Z0-9]", "", text.upper()).translate(FOLD)


def _figures(text: str, marks: tuple[Mark, ...]) -> dict[str, str]:
    """Each mark's figure; none where the text gives two that differ."""
    found: dict[str, str] = {}
    for mark in marks:
        numbers = NUMBER + (TO + NUMBER) * (len(mark.fields) - 1)
        bracketed = rf"(?:[\[(]\s*({mark.unit})\s*[\])]{GAP})?"
        pattern = rf"(?:{mark.named})\b{GAP}{bracketed}{numbers}\s*({mark.unit})?\b"
        said = {
            tuple(_plain(one, match) for one in match.groups()[1:-1])
            for match in re.finditer(pattern, text, re.IGNORECASE)
            # A figure without its unit may be of anything.
            if match.groups()[0] or match.groups()[-1]
        }
        if len(said) == 1:
            found |= dict(zip(mark.fields, said.pop(), strict=True))
    return found


def _plain(number: str, match: re.Match[str]) -> str:
    """A figure as it is typed: a point, no sign of another alphabet, no kilo."""
    value = float(number.replace(",", ".").replace("−", "-"))
    unit = (match.groups()[0] or match.groups()[-1] or "").lower()
    return f"{value * W_PER_KW if unit.startswith('k') else value:g}"
