"""A meter proved alive: loads on one phase after the other, then the inverter feeding."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Annotated

from core.base.errors import Problem, problem, same_count
from core.base.form import Checked
from core.base.judgement import Judgement, at_most, holds, waiting
from core.base.messages import figure, say
from core.base.quantity import Items, Quantity
from core.base.rule import rule
from core.rules.talk.clamps import ClampsAre, ClampStep, PerPhaseW, Watts, clamps_read

METER_SOURCE = "meter sheet (arrow, phases, ratio); circuit theory"
PHASES = 3
# Ratios that are set by mistake: of the next clamp up or down, and a tenth or tenfold.
# Long Noon default, not from a standard.
RATIOS = (1.0, 2.0, 0.5, 10.0, 0.1, 5.0)
# How near a change must come to what was switched, and how much must be switched to tell.
# Long Noon default, not from a standard.
WITHIN_SHARE, WITHIN_LEAST_W, LOAD_LEAST_W = 0.12, 40.0, 300.0
Reads = Annotated[tuple[Watts, ...], Items("readings of the phases", 1, PHASES)]
AllReads = Annotated[tuple[Reads, ...], Items("loads, phase by phase", 0, PHASES)]
Loads = Annotated[
    tuple[Annotated[float, Quantity("load", "W", 0, 1_000_000)], ...], Items("loads", 0, PHASES)
]
LimitW = Annotated[float, Quantity("export limit", "W", 0, 1_000_000)]


@dataclass(frozen=True, kw_only=True)
class MeterProof(Checked):
    """What the meter showed. base_w: with nothing switched; loads_w, load_reads_w: each known load
    and what was read with it on; feeding_w: the inverter's output, None before it feeds, with
    feeding_reads_w."""

    base_w: Reads
    loads_w: Loads
    load_reads_w: AllReads
    feeding_w: Watts | None = None
    feeding_reads_w: Reads | None = None

    def contradictions(self) -> Iterator[Problem]:
        phases = len(self.base_w)
        if len(self.loads_w) != len(self.load_reads_w):
            allowed = f"{len(self.loads_w)}, one for each load"
            yield problem("$.load_reads_w", f"{len(self.load_reads_w)} items", allowed)
        every = {f"$.load_reads_w[{at}]": one for at, one in enumerate(self.load_reads_w)}
        if self.feeding_reads_w is not None:
            every["$.feeding_reads_w"] = self.feeding_reads_w
        for path, reads in every.items():
            if len(reads) != phases:
                yield problem(path, f"{len(reads)} items", f"{phases}, one for each phase")


def explained(proof: MeterProof, *, single: bool) -> tuple[ClampsAre, ...]:
    """Every way in which the clamps can sit to give what was read, the rightest first."""
    if single:
        return _single(proof)
    steps = [
        ClampStep(add_w=_on(at, load), reading_w=_change(reads, proof.base_w))
        for at, (load, reads) in enumerate(zip(proof.loads_w, proof.load_reads_w, strict=True))
    ]
    within = _within(max(proof.loads_w, default=0.0))
    return tuple(
        sorted(
            clamps_read(steps=tuple(steps), ratios=RATIOS, within_w=within).explanations,
            key=_wrongness,
        )
    )


def _single(proof: MeterProof) -> tuple[ClampsAre, ...]:
    """On one phase there is an arrow and a ratio to tell, and nothing else."""
    load, change = proof.loads_w[0], proof.load_reads_w[0][0] - proof.base_w[0]
    ways = [
        ClampsAre(on_phase=(1,), reversed=(turned,), ratio=(ratio,))
        for turned in (False, True)
        for ratio in RATIOS
        if abs((-ratio if turned else ratio) * load - change) <= _within(load)
    ]
    return tuple(sorted(ways, key=_wrongness))


def _on(phase: int, load_w: float) -> PerPhaseW:
    return tuple(load_w if at == phase else 0.0 for at in range(PHASES))


def _change(reads: tuple[float, ...], base: tuple[float, ...]) -> tuple[float, ...]:
    return tuple(one - other for one, other in zip(reads, base, strict=True))


def _within(load_w: float) -> float:
    return max(WITHIN_LEAST_W, WITHIN_SHARE * load_w)


def _wrongness(one: ClampsAre) -> tuple[int, int, float]:
    swapped = sum(phase != at for at, phase in enumerate(one.on_phase, start=1))
    return swapped, sum(one.reversed), math.fsum(abs(math.log(ratio)) for ratio in one.ratio)


def told(one: ClampsAre) -> str:
    """One way in which clamps can sit, in words; nothing for the right one."""
    found = [
        say("clamp_said", "phase", clamp=str(at), phase=f"L{phase}")
        for at, phase in enumerate(one.on_phase, start=1)
        if phase != at
    ]
    found += [
        say("clamp_said", "turned", clamp=str(at))
        for at, turned in enumerate(one.reversed, start=1)
        if turned
    ]
    found += [
        say("clamp_said", "ratio", clamp=str(at), factor=figure(ratio, digits=2))
        for at, ratio in enumerate(one.ratio, start=1)
        if not math.isclose(ratio, 1.0)
    ]
    return ", ".join(found)


@rule
def meter_loads(*, proof: MeterProof | None, single: bool, missing: tuple[str, ...]) -> Judgement:
    """Before anything feeds: does import rise on the phase that was loaded, by that load, alone?

    A swapped phase, a turned arrow and a wrong ratio are told from the readings.
    Source: meter sheet; circuit theory.
    """
    if proof is None or missing:
        return waiting("meter_loads", "W", METER_SOURCE, missing)
    wanted = 1 if single else PHASES
    same_count("$.proof.base_w", len(proof.base_w), wanted, "the phases")
    same_count("$.proof.loads_w", len(proof.loads_w), wanted, "the phases")
    small = min(proof.loads_w, default=0.0)
    if small < LOAD_LEAST_W:
        needs = say("needs", "more_load", least=figure(LOAD_LEAST_W, "W"), has=figure(small, "W"))
        return waiting("meter_loads", "W", METER_SOURCE, (needs,))
    ways = explained(proof, single=single)
    if not ways:
        return holds("meter_loads", False, METER_SOURCE, said=say("clamp_said", "nothing"))
    words = told(ways[0])
    others = [found for one in ways[1:3] if (found := told(one))]
    said = say("clamp_said", "so", what=words) if words else ""
    if words and others:
        said += " " + say("clamp_said", "or", what="; ".join(others))
    return holds("meter_loads", not words, METER_SOURCE, said=said)


@rule
def meter_sign(*, proof: MeterProof | None, missing: tuple[str, ...] = ()) -> Judgement:
    """While the inverter feeds: does import fall by its output?

    The sign itself turns only once the output exceeds the load; in weak sun the fall is judged.
    Source: meter sheet; trade practice.
    """
    if proof is None or missing or proof.feeding_w is None or proof.feeding_reads_w is None:
        return waiting("meter_sign", "W", METER_SOURCE, missing or (say("needs", "feeding"),))
    if proof.feeding_w < LOAD_LEAST_W:
        needs = say(
            "needs", "more_feeding", least=figure(LOAD_LEAST_W, "W"),
            has=figure(proof.feeding_w, "W"),
        )  # fmt: skip
        return waiting("meter_sign", "W", METER_SOURCE, (needs,))
    fall = math.fsum(proof.base_w) - math.fsum(proof.feeding_reads_w)
    good = abs(fall - proof.feeding_w) <= _within(proof.feeding_w)
    key = "" if good else "rises" if fall < 0 else "other"
    facts = {"fall": figure(fall, "W", 0), "output": figure(proof.feeding_w, "W", 0)}
    said = say("meter_said", key, **facts) if key else ""
    return holds("meter_sign", good, METER_SOURCE, "stop", said=said, **facts)


@rule
def export_limit_kept(*, set_w: LimitW, permit_w: LimitW) -> Judgement:
    """Is the limit that was read back from the device no more than the permit grants?

    Source: operator's permit.
    """
    return at_most("export_limit_kept", set_w, permit_w, "W", "operator's permit", exact="clear")


@rule
def export_held(*, seen_w: Watts, permit_w: LimitW) -> Judgement:
    """Did export stay within the permit while the limit was tried?

    Source: operator's permit.
    """
    return at_most("export_held", seen_w, permit_w, "W", "operator's permit", exact="clear")


StepPct = Annotated[float, Quantity("step", "%", 0, 100)]
RatedW = Annotated[float, Quantity("rated AC power", "W", 1, 1_000_000)]
# What a device may be off its step, and what it must reach again.
# Long Noon default, not from a standard.
STEP_OFF_SHARE, RETURNS_SHARE = 0.05, 0.8


@rule
def signal_tested(
    *,
    step_pct: StepPct,
    rated_w: RatedW,
    before_w: Watts | None,
    at_w: Watts | None,
    after_w: Watts | None,
) -> Judgement:
    """Does the power follow the contact, down within its step and up again once it is released?

    A step above what the sun gave before it was bridged proves nothing: it waits.
    Source: grid code (remote reduction of active power); device sheet.
    """
    source = "grid code (remote reduction); device sheet"
    most_w = step_pct / 100 * rated_w
    lacks = tuple(
        say("needs", key)
        for key, one in (("before_w", before_w), ("at_w", at_w), ("after_w", after_w))
        if one is None
    )
    if lacks or before_w is None or at_w is None or after_w is None:
        return waiting("signal_tested", "W", source, lacks)
    facts = {
        "step": figure(step_pct, "%"), "most": figure(most_w, "W", 0),
        "before": figure(before_w, "W", 0), "at": figure(at_w, "W", 0),
        "after": figure(after_w, "W", 0),
    }  # fmt: skip
    if at_w > most_w + STEP_OFF_SHARE * rated_w:
        said = say("signal_said", "stays", **facts)
        return holds("signal_tested", False, source, "stop", said=said, **facts)
    if before_w <= most_w or before_w <= STEP_OFF_SHARE * rated_w:
        needs = (say("needs", "sun_for_step", **facts),)
        return waiting("signal_tested", "W", source, needs)
    back = after_w >= RETURNS_SHARE * before_w
    said = "" if back else say("signal_said", "stuck", **facts)
    return holds("signal_tested", back, source, "stop", said=said, **facts)
