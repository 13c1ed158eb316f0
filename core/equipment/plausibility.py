"""Figures of a module sheet that are probably a slip: found before they are refused or believed.

A coefficient in 1/K or V/K where %/K is meant errs to the unsafe side when it passes silently.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass

# Between these the coefficients of crystalline modules lie; a figure outside is asked about.
USUAL_PCT_PER_K: dict[str, tuple[float, float]] = {
    "beta_voc_pct_per_k": (-0.40, -0.20),
    "beta_vmp_pct_per_k": (-0.50, -0.22),
    "gamma_pmax_pct_per_k": (-0.50, -0.22),
    "alpha_isc_pct_per_k": (0.0, 0.10),
}
# The figure at STC by which a coefficient in its own unit per kelvin is divided.
STC_FIGURE = {
    "beta_voc_pct_per_k": "voc_v",
    "beta_vmp_pct_per_k": "vmp_v",
    "gamma_pmax_pct_per_k": "pmax_w",
    "alpha_isc_pct_per_k": "isc_a",
}
UNIT_PER_K = {"voc_v": "V/K", "vmp_v": "V/K", "pmax_w": "W/K", "isc_a": "A/K"}
SHOWN_DIGITS = 4
# Between these lies the open-circuit voltage of one crystalline cell at STC, V.
CELL_V = (0.55, 0.78)
# Beyond this it is no slip of counting: the figure itself is refused by its own range.
NO_CELL_V = 3.0
# Of power: a sheet's maximum power is its voltage times its current but for rounding.
POWER_APART = 0.03


@dataclass(frozen=True, kw_only=True)
class Doubt:
    """A figure that is probably meant otherwise: the question, and the figure meant."""

    field: str
    given: float
    meant: float
    question: str


def module_doubts(figures: Mapping[str, float]) -> Iterator[Doubt]:
    """Doubts about a module's figures, given by field name; absent ones are passed over."""
    for field, usual in USUAL_PCT_PER_K.items():
        given = figures.get(field)
        if given is not None and not usual[0] <= given <= usual[1]:
            doubt = _coefficient_doubt(field, given, usual, figures.get(STC_FIGURE[field]))
            if doubt is not None:
                yield doubt
    yield from _swapped(figures, "vmp_v", "voc_v", "V")
    yield from _swapped(figures, "imp_a", "isc_a", "A")
    yield from _power_doubt(figures)
    yield from _cells_doubt(figures)


def _cells_doubt(figures: Mapping[str, float]) -> Iterator[Doubt]:
    """Cells in series that do not go with the open-circuit voltage: half-cut ones counted whole."""
    voc_v, cells = figures.get("voc_v"), figures.get("cells_in_series")
    if voc_v is None or not cells or CELL_V[0] <= voc_v / cells <= CELL_V[1]:
        return
    if voc_v / cells > NO_CELL_V:
        return
    usual = math.fsum(CELL_V) / 2
    halves = cells / 2
    meant = halves if CELL_V[0] <= voc_v / halves <= CELL_V[1] else round(voc_v / usual)
    question = (
        f"{voc_v:g} V over {cells:g} cells in series is {voc_v / cells:.2f} V a cell, usual are "
        f"{CELL_V[0]:g} to {CELL_V[1]:g} V. Are {meant:g} in series meant? Half-cut modules have "
        "half their cells in series."
    )
    yield Doubt(field="cells_in_series", given=cells, meant=meant, question=question)


def _coefficient_doubt(
    field: str, given: float, usual: tuple[float, float], stc: float | None
) -> Doubt | None:
    unit = UNIT_PER_K[STC_FIGURE[field]]
    readings = [
        (-given, "has the wrong sign"),
        (100 * given, "looks like a figure in 1/K"),
        (-100 * given, "looks like a figure in 1/K with the wrong sign"),
    ]
    if stc:
        readings += [
            (100 * given / stc, f"looks like a figure in {unit}"),
            (0.1 * given / stc, f"looks like a figure in m{unit}"),
        ]
    for meant, what in readings:
        if usual[0] <= meant <= usual[1] and meant != 0:
            told = round(meant, SHOWN_DIGITS)
            question = f"{given:g} %/K {what}. Is {told:g} %/K meant?"
            return Doubt(field=field, given=given, meant=told, question=question)
    return None


def _swapped(figures: Mapping[str, float], working: str, limit: str, unit: str) -> Iterator[Doubt]:
    at_work, at_limit = figures.get(working), figures.get(limit)
    if at_work is not None and at_limit is not None and at_work >= at_limit:
        question = (
            f"{at_work:g} {unit} at maximum power is not below the {at_limit:g} {unit} of "
            f"{'open' if unit == 'V' else 'short'} circuit. Are the two swapped?"
        )
        yield Doubt(field=working, given=at_work, meant=at_limit, question=question)


def _power_doubt(figures: Mapping[str, float]) -> Iterator[Doubt]:
    known = [figures.get(name, math.nan) for name in ("pmax_w", "vmp_v", "imp_a")]
    power_w, product_w = known[0], known[1] * known[2]
    if abs(product_w - power_w) > POWER_APART * power_w:
        question = (
            f"{power_w:g} W is not {known[1]:g} V times {known[2]:g} A, which is "
            f"{product_w:.0f} W. Which of the three is wrong?"
        )
        yield Doubt(field="pmax_w", given=power_w, meant=round(product_w), question=question)
