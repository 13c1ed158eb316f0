"""The columns of a tester's file: what each is, of what, in which unit."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from core.job.reading_kinds import KINDS, ReadingKind

SUBJECT, TAKEN_AT, NOTE = "subject", "taken_at", "note"
# Of what a column's reading is: of what the row names, of its plane, of the site, of a half-wave.
Of = Literal["subject", "plane", "site", "circuit", "0°", "180°"]


@dataclass(frozen=True, kw_only=True)
class FileColumn:
    """One column of ours: the reading that its cells become, and in which unit they are."""

    name: str
    kind: ReadingKind
    of: Of
    unit: str


def _column(name: str, kind: ReadingKind, of: Of = "subject") -> FileColumn:
    return FileColumn(name=name, kind=kind, of=of, unit=KINDS[kind].unit)


COLUMNS: dict[str, FileColumn] = {
    one.name: one
    for one in (
        _column("irradiance", "irradiance", "plane"),
        _column("module_temperature", "module_temperature", "plane"),
        _column("air_temperature", "air_temperature", "site"),
        _column("open_circuit", "open_circuit"),
        _column("short_circuit", "short_circuit"),
        _column("operating", "operating"),
        _column("insulation_volts", "insulation_volts"),
        _column("insulation_plus", "insulation_plus"),
        _column("insulation_minus", "insulation_minus"),
        _column("insulation_ac_volts", "insulation_ac_volts"),
        _column("insulation_ac", "insulation_ac"),
        _column("continuity", "continuity"),
        _column("loop_impedance", "loop_impedance", "circuit"),
        _column("residual_ms_0", "residual_ms", "0°"),
        _column("residual_ms_180", "residual_ms", "180°"),
        _column("residual_ma_0", "residual_ma", "0°"),
        _column("residual_ma_180", "residual_ma", "180°"),
        _column("supply_voltage", "supply_voltage"),
        _column("conductor_voltage", "conductor_voltage"),
        _column("supply_frequency", "supply_frequency", "site"),
    )
}
KNOWN = (SUBJECT, TAKEN_AT, NOTE, *COLUMNS)
