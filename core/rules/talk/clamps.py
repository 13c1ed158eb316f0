"""Clamps of a meter, told apart by what they read: which phase, which way round, which ratio."""

from __future__ import annotations

import cmath
import math
from dataclasses import dataclass
from itertools import permutations, product
from typing import Annotated

from core.base.errors import Refused, problem
from core.base.form import Checked
from core.base.glossary import Note
from core.base.quantity import Items, Quantity
from core.base.rule import rule

PHASES = 3
MOST_WAYS = 5000
PhaseV = Annotated[float, Quantity("voltage of a phase", "V", 50, 1000)]
AngleDeg = Annotated[float, Quantity("angle of a phase", "°", -360, 360)]
Watts = Annotated[float, Quantity("power", "W", -1_000_000, 1_000_000)]
Angles = Annotated[tuple[AngleDeg, ...], Items("angles of the phases", PHASES, PHASES)]
PerPhaseW = Annotated[tuple[Watts, ...], Items("power of each phase", PHASES, PHASES)]
Ratios = Annotated[
    tuple[Annotated[float, Quantity("ratio factor", "", 0.01, 100)], ...], Items("ratios", 1, 6)
]
WithinW = Annotated[float, Quantity("how near a reading must come", "W", 0.01, 10_000)]


@dataclass(frozen=True, kw_only=True)
class ClampStep(Checked):
    """What was on, and what the meter read. add_w: a resistive load beside the known ones."""

    reading_w: PerPhaseW
    add_w: PerPhaseW = (0.0, 0.0, 0.0)
    inverter_w: PerPhaseW = (0.0, 0.0, 0.0)
    name: Note = ""


Steps = Annotated[tuple[ClampStep, ...], Items("steps", 1, 40)]


@dataclass(frozen=True, kw_only=True)
class ClampsAre:
    """One way in which three clamps can sit. on_phase: of the clamp of each channel."""

    on_phase: tuple[int, ...]
    reversed: tuple[bool, ...]
    ratio: tuple[float, ...]


@dataclass(frozen=True, kw_only=True)
class ClampsRead:
    """What the readings say of the clamps. explanations: every way that gives just these readings.

    sum_w: of each step, as it is wired; right_w: what each channel would read if all were right.
    """

    explanations: tuple[ClampsAre, ...]
    sum_w: tuple[float, ...]
    right_w: tuple[tuple[float, ...], ...]


@rule
def clamps_read(
    *,
    steps: Steps,
    known_w: PerPhaseW = (0.0, 0.0, 0.0),
    known_var: PerPhaseW = (0.0, 0.0, 0.0),
    phase_v: PhaseV = 230.0,
    angles_deg: Angles = (0.0, -120.0, 120.0),
    ratios: Ratios = (1.0,),
    within_w: WithinW = 0.5,
) -> ClampsRead:
    """On which phase is each clamp, which way round and with which ratio, by what was read?

    Every pairing, arrow and ratio is tried against every step: P_k = Re(V_k · (±ratio · I)*).
    Import is positive; the inverter feeds at unity power factor.
    Raises Refused where more ratios are possible than can be tried.
    Source: circuit theory; meter sheet (clamps).
    """
    volts = [cmath.rect(phase_v, math.radians(one)) for one in angles_deg]
    amps = [_amps(step, volts, known_w, known_var) for step in steps]
    fitting = [_of_channel(k, steps, volts, amps, ratios, within_w) for k in range(PHASES)]
    ways = []
    for on in permutations(range(PHASES)):
        choices = [[one for one in fitting[k] if one[0] == on[k]] for k in range(PHASES)]
        ways += [_way(chosen) for chosen in product(*choices)]
    if len(ways) > MOST_WAYS:
        raise Refused([problem("$.ratios", len(ratios), "fewer ratios, or more steps")])
    return ClampsRead(
        explanations=tuple(ways),
        sum_w=tuple(math.fsum(step.reading_w) for step in steps),
        right_w=tuple(
            tuple((v * i.conjugate()).real for v, i in zip(volts, some, strict=True))
            for some in amps
        ),
    )


Chosen = tuple[int, bool, float]


def _amps(
    step: ClampStep, volts: list[complex], known_w: tuple[float, ...], known_var: tuple[float, ...]
) -> list[complex]:
    """The current of each phase, towards the house."""
    return [
        (
            complex(known_w[j] + step.add_w[j] - step.inverter_w[j], known_var[j]) / volts[j]
        ).conjugate()
        for j in range(PHASES)
    ]


def _of_channel(
    k: int,
    steps: tuple[ClampStep, ...],
    volts: list[complex],
    amps: list[list[complex]],
    ratios: tuple[float, ...],
    within_w: float,
) -> list[Chosen]:
    """Every phase, way round and ratio by which one channel would read what it did."""
    return [
        (phase, is_reversed, ratio)
        for phase in range(PHASES)
        for is_reversed in (False, True)
        for ratio in ratios
        if all(
            abs(_read_w(volts[k], some[phase], is_reversed, ratio) - step.reading_w[k]) <= within_w
            for step, some in zip(steps, amps, strict=True)
        )
    ]


def _read_w(volts: complex, amps: complex, is_reversed: bool, ratio: float) -> float:
    arrow = -1.0 if is_reversed else 1.0
    return (volts * (arrow * ratio * amps).conjugate()).real


def _way(chosen: tuple[Chosen, ...]) -> ClampsAre:
    return ClampsAre(
        on_phase=tuple(one[0] + 1 for one in chosen),
        reversed=tuple(one[1] for one in chosen),
        ratio=tuple(one[2] for one in chosen),
    )
