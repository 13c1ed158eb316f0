"""How often the expected band cries wolf, and how often it takes a missing module for none.

The truth is the single-diode model of the public module library that pvlib ships; the band is
made from the leaflet's figures alone, of what a meter, a sun sensor and a thermometer then say.
"""

from __future__ import annotations

import csv
import random
import warnings
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, fields, replace
from importlib.resources import files

from core.base.errors import Refused
from core.equipment.catalogue import sheets
from core.equipment.module import Module
from core.equipment.plausibility import module_doubts
from core.figures.rule_packs import GENERIC
from core.rules.dc.expected_reading import CellFrom, expected_voc, voc_now
from tools.measuring import show

LIBRARY = "sam-library-cec-modules-2019-03-05.csv"
# pvlib's library has two lines of units and names of its program under the heading.
HEADING_LINES = 2
MODULES, SEED = 1600, 11
SUNS_W_PER_M2, CELLS_C = (200.0, 1050.0), (5.0, 60.0)
# A doubt of the rule pack is taken as three standard deviations.
DEVIATIONS = 3.0
Row = dict[str, str]


@dataclass(frozen=True, kw_only=True)
class Moment:
    """One string at one moment: what is true, and how far each instrument then is from it."""

    module: Module
    true_w_per_m2: float
    true_cell_c: float
    one_v: float
    sun_error: float
    cell_error: float
    meter_error: float
    module_error: float


def library() -> Sequence[Row]:
    """The crystalline modules of the library, in its order."""
    text = (files("pvlib") / "data" / LIBRARY).read_text(encoding="utf-8")
    rows = list(csv.DictReader(text.splitlines()))[HEADING_LINES:]
    return [row for row in rows if row["Technology"] in ("Mono-c-Si", "Multi-c-Si")]


def leaflet(row: Row) -> Module | None:
    """What a leaflet of that module would say; None where it would be refused or asked about."""
    voc_v, isc_a = float(row["V_oc_ref"]), float(row["I_sc_ref"])
    try:
        sheet = replace(
            next(one for one in sheets("modules") if isinstance(one, Module)),
            pmax_w=float(row["STC"]),
            voc_v=voc_v,
            vmp_v=float(row["V_mp_ref"]),
            isc_a=isc_a,
            imp_a=float(row["I_mp_ref"]),
            beta_voc_pct_per_k=100 * float(row["beta_oc"]) / voc_v,
            alpha_isc_pct_per_k=100 * float(row["alpha_sc"]) / isc_a,
            gamma_pmax_pct_per_k=float(row["gamma_r"]),
            noct_c=float(row["T_NOCT"]),
            cells_in_series=int(row["N_s"]),
            beta_vmp_pct_per_k=None,
            ideality_n=None,
        )
    except Refused:
        return None
    figures = {one.name: getattr(sheet, one.name) for one in fields(Module)}
    numbers = {name: one for name, one in figures.items() if isinstance(one, int | float)}
    return None if any(module_doubts(numbers)) else sheet


def true_voc_v(rows: Sequence[Row], suns: Sequence[float], cells: Sequence[float]) -> list[float]:
    """Open-circuit voltage of each module in its sun, at its cell temperature. [V]"""
    import numpy
    from pvlib.pvsystem import calcparams_cec, singlediode

    def column(name: str) -> numpy.ndarray[tuple[int], numpy.dtype[numpy.float64]]:
        return numpy.array([float(row[name]) for row in rows])

    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        found = calcparams_cec(
            numpy.array(suns),
            numpy.array(cells),
            alpha_sc=column("alpha_sc"),
            a_ref=column("a_ref"),
            I_L_ref=column("I_L_ref"),
            I_o_ref=column("I_o_ref"),
            R_sh_ref=column("R_sh_ref"),
            R_s=column("R_s"),
            Adjust=column("Adjust"),
        )
        return [float(one) for one in singlediode(*found)["v_oc"]]


def moments() -> list[Moment]:
    """As many modules of the library, each at a moment of its own."""
    drawn = random.Random(SEED)
    known = [(row, sheet) for row in library() if (sheet := leaflet(row)) is not None]
    taken = drawn.sample(known, min(MODULES, len(known)))
    suns = [drawn.uniform(*SUNS_W_PER_M2) for _ in taken]
    cells = [drawn.uniform(*CELLS_C) for _ in taken]
    volts = true_voc_v([row for row, _ in taken], suns, cells)
    return [
        Moment(
            module=sheet,
            true_w_per_m2=sun,
            true_cell_c=cell,
            one_v=one_v,
            sun_error=drawn.gauss(0, 1 / DEVIATIONS),
            cell_error=drawn.gauss(0, 1 / DEVIATIONS),
            meter_error=drawn.gauss(0, 1 / DEVIATIONS),
            module_error=drawn.gauss(0, 1 / DEVIATIONS),
        )
        for (_, sheet), sun, cell, one_v in zip(taken, suns, cells, volts, strict=True)
    ]


def inside(every: Sequence[Moment], planned: int, there: int, cell_from: CellFrom) -> float:
    """The share of readings of a string that lie in the band of the string as planned. [%]"""
    meter = GENERIC.meter
    doubt_k = (meter.cell_from_air if cell_from == "air" else meter.cell_from_back).value
    hits = 0
    for one in every:
        read_v = one.one_v * there
        read_v *= 1 + one.module_error * meter.module_tolerance.value / 100
        read_v *= 1 + one.meter_error * meter.meter.value / 100
        band = expected_voc(
            module=one.module,
            modules_in_series=planned,
            irradiance_w_per_m2=one.true_w_per_m2
            * (1 + one.sun_error * meter.irradiance_measured.value / 100),
            t_cell_c=one.true_cell_c + one.cell_error * doubt_k,
            cell_from=cell_from,
        )
        hits += band.low_v <= read_v <= band.high_v
    return 100 * hits / len(every)


def furthest_pct(every: Sequence[Moment]) -> Iterator[float]:
    """How far the closed form lies from the truth of each module at its moment. [%]"""
    for one in every:
        closed_v = voc_now(
            modules_in_series=1,
            voc_v=one.module.voc_v,
            beta_voc_pct_per_k=one.module.beta_voc_pct_per_k,
            cells_in_series=one.module.cells_in_series,
            irradiance_w_per_m2=one.true_w_per_m2,
            t_cell_c=one.true_cell_c,
        )
        yield 100 * abs(closed_v / one.one_v - 1)


def bench_band() -> list[bool]:
    """Both figures of the band, from air and from the back of a module; the closed form's own."""
    every = moments()
    apart = sorted(furthest_pct(every))
    kept = [
        show("voc_now against single diode, 99 of 100", apart[len(apart) * 99 // 100], 3.0, "%")
    ]
    sources: tuple[tuple[CellFrom, float, tuple[float, float]], ...] = (
        ("air", 0.4, (20.0, 33.0)),
        ("back", 0.4, (0.1, 1.6)),
    )
    for cell_from, wolf_pct, taken_pct in sources:
        wolf = 100 - inside(every, 14, 14, cell_from)
        kept.append(show(f"band from {cell_from}: sound called bad", wolf, wolf_pct, "%"))
        for planned, most in zip((14, 18), taken_pct, strict=True):
            missed = inside(every, planned, planned - 1, cell_from)
            name = f"band from {cell_from}: {planned - 1} of {planned} inside, not told"
            kept.append(show(name, missed, most, "%"))
    return kept
