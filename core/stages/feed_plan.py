"""What every part of Feed is judged by: the job, its chain, its supply, its trip, its breaker."""

from __future__ import annotations

from functools import cached_property

from core.equipment.accessories import Breaker
from core.errors import Refused
from core.feed import AcRun, Chain, FeedDevice
from core.glossary import Service
from core.job import SUPPLY_PAIRS, Job
from core.judgement import Judgement, waiting, worst
from core.kept import Reading
from core.packs import RulePack
from core.profiles import Profile, profile, response_curves, steady_trip_v
from core.rules.circuit import breaker_rating, design_current
from core.rules.conductors import Ampacity, ac_resistance, conductor_ampacity
from core.rules.export_response import CurvePoint
from core.rules.voltage_rise import RunSegment
from core.stages.readings import Readings
from core.words import figure, say

LOADED: dict[Service, int] = {"single": 2, "split": 2, "three": 3}


class Feed:
    """One job's feed, looked at from all sides once."""

    def __init__(self, job: Job, readings: Readings) -> None:
        self.job = job
        self.readings = readings
        self.rules: RulePack = job.rules
        self.chain: Chain = job.feed.chain
        self.service: Service = job.inverter.service
        self.pairs = SUPPLY_PAIRS[self.service]

    @cached_property
    def latest_supply(self) -> tuple[tuple[float, str], ...]:
        """The last reading of each pair of conductors."""
        return tuple(
            (reading.value, pair)
            for pair in self.pairs
            if (reading := self.readings.latest("supply_voltage", pair)) is not None
        )

    @property
    def measured(self) -> bool:
        return len(self.latest_supply) == len(self.pairs)

    @cached_property
    def supply(self) -> tuple[float, str]:
        """Volts and pair of the highest conductor: the one that trips first."""
        return max(self.latest_supply, default=(self.job.inverter.nominal_v, self.pairs[0]))

    @cached_property
    def supply_readings(self) -> tuple[Reading, ...]:
        """Every reading of the supply that still counts, over the day."""
        return tuple(
            one for pair in self.pairs for one in self.readings.counting("supply_voltage", pair)
        )

    @cached_property
    def high_supply_v(self) -> float:
        """The supply of a high day: the highest that was read, or what the pack expects."""
        expected = self.job.inverter.nominal_v * (1 + self.rules.run.high_supply.value / 100)
        return max(expected, *(one.value for one in self.supply_readings), 0.0)

    @cached_property
    def profile(self) -> Profile | None:
        return profile(self.job.grid.profile) if self.job.grid.profile else None

    @cached_property
    def trip(self) -> tuple[float | None, str]:
        """The lasting voltage at which the inverter stops, and the setting that does it."""
        if self.profile is None:
            return None, ""
        trip_v, point_id = steady_trip_v(self.profile)
        return trip_v, say("trip", point_id)

    @cached_property
    def responses(self) -> tuple[tuple[CurvePoint, ...], tuple[CurvePoint, ...]]:
        """Volt-watt and volt-var of the profile; empty where they are off."""
        if self.profile is None:
            return (), ()
        watt, var = response_curves(self.profile)
        return tuple(map(_corner, watt)), tuple(map(_corner, var))

    @cached_property
    def design_a(self) -> float:
        """The inverter's current at full output, in each line: by its sheet where it says."""
        inverter = self.job.inverter
        if inverter.ac is not None and inverter.ac.max_a is not None:
            return inverter.ac.max_a
        return design_current(
            power_w=inverter.rated_ac_w, voltage_v=inverter.nominal_v, service=self.service
        )

    @cached_property
    def board(self) -> FeedDevice | None:
        """The device with the breaker of the inverter's circuit, nearest to the inverter."""
        fitted = [d for d in self._on_the_way if d.breaker is not None]
        return fitted[-1] if fitted else None

    @cached_property
    def breaker(self) -> Breaker | None:
        return self.board.breaker if self.board else None

    @cached_property
    def breaker_wanted(self) -> str:
        """What is missing while there is no breaker, with the smallest that would do."""
        rating_a = breaker_rating(design_a=self.design_a, rule_pack=self.rules)
        if rating_a is None:
            return say("needs", "breaker_beyond")
        return say("needs", "breaker", rating=figure(rating_a, "A"))

    @cached_property
    def _on_the_way(self) -> tuple[FeedDevice, ...]:
        by_name = {one.name: one for one in self.job.feed.devices}
        return tuple(by_name[name] for name in self.chain.rungs)

    def behind_breaker(self, run: AcRun) -> bool:
        """Whether a run lies between the breaker and the inverter."""
        if self.board is None or run not in self.chain.runs:
            return False
        return self.chain.runs.index(run) >= self.chain.rungs.index(self.board.name)

    def protected_by_a(self, run: AcRun) -> float | None:
        """Rating of what protects a run: the breaker behind it, or what feeds the board."""
        if self.behind_breaker(run) and self.breaker is not None:
            return self.breaker.rated_a
        return self.board.supply_a if self.board else None

    @cached_property
    def segments(self) -> tuple[RunSegment, ...] | None:
        """The whole way at working temperature; None with a gap, or a figure in no table."""
        try:
            return tuple(self.segment(run) for run in self.chain.runs) or None
        except Refused:
            return None

    def segment(self, run: AcRun, section_mm2: float | None = None) -> RunSegment:
        """A run at its working temperature, of its own or of another size. Raises Refused."""
        return RunSegment(
            name=run.name,
            length_m=run.length_m,
            r_ohm_per_km=ac_resistance(
                section_mm2=section_mm2 or run.section_mm2,
                conductor_c=self.rules.ac.conductor_temp.value,
                strands=run.strands,
                material=run.material,
                rule_pack=self.rules,
            ),
            x_ohm_per_km=self.rules.ac.reactance.value,
        )

    def ampacity(self, run: AcRun, section_mm2: float | None = None) -> Ampacity:
        """What a run carries as it is laid, of its own or of another size. Raises Refused."""
        return conductor_ampacity(
            section_mm2=section_mm2 or run.section_mm2,
            loaded=LOADED[self.service],
            insulation=run.insulation,
            method=run.method,
            air_c=run.air_c,
            grouped=run.grouped,
            material=run.material,
            rule_pack=self.rules,
        )


def _corner(point: tuple[float, float]) -> CurvePoint:
    volts, pct = point
    return CurvePoint(volts=volts, pct=pct)


def deciding(judgements: tuple[Judgement, ...], otherwise: str) -> tuple[str, Judgement | None]:
    """What decides among judgements: the gravest one's reason; `otherwise` where all is clear."""
    verdict = worst(("clear", *(one.verdict for one in judgements)))
    if verdict == "clear":
        return otherwise, None
    gravest = next(one for one in judgements if one.verdict == verdict)
    return gravest.reason, gravest


def not_in_tables(rule_id: str, unit: str, source: str, refused: Refused) -> Judgement:
    """A judgement that waits because a table does not hold what was asked of it."""
    return waiting(rule_id, unit, source, tuple(one.message for one in refused.problems))
