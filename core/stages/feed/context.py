"""What every part of Feed is judged by: the job, its chain, its supply, its trip, its breaker."""

from __future__ import annotations

import math
from functools import cached_property

from core.assessment.microinverter import TrunkPlan
from core.base.adding import complex_sum
from core.base.errors import Refused, problem
from core.base.glossary import Service
from core.base.judgement import Judgement, waiting, worst
from core.base.messages import figure, say
from core.equipment.cables_switches_fixings import Breaker
from core.equipment.micro import Micro
from core.figures.grid_profiles import Profile, response_curves, steady_trip_v
from core.figures.rule_packs import RulePack
from core.job.ac_source import AcSource
from core.job.feed import AcRun, Chain, FeedDevice
from core.job.job import Job
from core.job.microinverter import Branch, phase_va
from core.job.readings import Reading
from core.job.subjects import supply_pairs
from core.planning.microinverter.parts import roof_of
from core.rules.ac.circuit import breaker_rating, design_current
from core.rules.ac.conductors import Ampacity, ac_resistance, conductor_ampacity
from core.rules.ac.voltage_rise import M_PER_KM, PHASES, RunSegment, loop_impedance
from core.rules.grid.export_response import CurvePoint
from core.stages.feed import other_sources
from core.stages.reading_index import Readings

# A trunk of one unit still has its cable to the joint box.
LEAST_TRUNK_M = 0.1
# A phase that the others relieve wholly still has its own resistance to show.
LEAST_SHARED = 0.01
LOADED: dict[Service, int] = {"single": 2, "split": 2, "three": 3}


class Feed:
    """One job's feed, looked at from all sides once.

    branch: on a roof of microinverters, the one branch whose way from the supply to its last
    unit this feed is. It is taken as one inverter of all its units at the last one's volts, over
    a way whose shared pieces count as often as they are shared: for constant currents that is
    exact, and for constant power it errs to the low side by less than a hundredth of the rise.
    """

    def __init__(
        self, job: Job, readings: Readings, hung: frozenset[str], branch: Branch | None = None
    ) -> None:
        self.job = job
        self.hung = hung
        self.readings = readings
        self.branch = branch
        self.rules: RulePack = job.rules
        joint = branch.joint if branch else None
        self.chain: Chain = job.feed.chain_to(joint) if joint else job.feed.chain
        self.source: AcSource = job.source
        self.service: Service = self.source.service
        self.pairs = supply_pairs(job.feed, self.service)
        self.others: tuple[Feed, ...] = ()

    def of(self, run: AcRun) -> Feed:
        """The branch's feed on whose way a run lies; this one where it does, or none does."""
        if not self.others:
            return self
        return next((one for one in (self, *self.others) if run in one.chain.runs), self)

    @cached_property
    def ladder_service(self) -> Service:
        """How the way of the ladder is wired: a branch of one phase is, on three phases too."""
        return self.job.roof_plan.unit.service if self.branch else self.service

    @cached_property
    def ladder_va(self) -> float:
        """What goes up the ladder at full output: all of it, or one branch's units."""
        if self.branch is None:
            return self.source.rated_ac_w
        return len(self.branch.units) * self._unit.max_va

    @property
    def _unit(self) -> Micro:
        """The unit that the branch is reckoned with."""
        plan = self.job.roof_plan
        return plan.types_of(self.branch).unit if self.branch else plan.unit

    @property
    def share(self) -> float:
        """The ladder's part of everything that is exported."""
        return self.ladder_va / self.source.rated_ac_w if self.branch else 1.0

    @cached_property
    def trunk(self) -> TrunkPlan | None:
        """The trunk of the branch, from its joint box to its last unit."""
        return roof_of(self.job).trunks[self.branch.name] if self.branch else None

    def shared(self, run: AcRun) -> float:
        """How often a run counts for what goes up the ladder: with the other branches of the roof,
        and with what else feeds the house."""
        beside = other_sources.factor(self.job.feed, self.source, run, self.ladder_a)
        return self._among_branches(run) + beside - 1

    @property
    def ladder_a(self) -> float:
        """The current that goes up the ladder at full output, in each line."""
        return self.ladder_va / self.source.nominal_v / PHASES[self.ladder_service]

    def _among_branches(self, run: AcRun) -> float:
        """How often a run counts for the branch: its current there over the branch's own.

        On three phases the neutral carries what the others leave over: 2·I − half of theirs.
        """
        plan, branch = self.job.micro, self.branch
        if plan is None or branch is None or self.is_home(run):
            return 1.0
        loads = phase_va(plan)
        if not plan.three_phase:
            return loads[0] / self.ladder_va
        own = loads[branch.phase - 1]
        least = LEAST_SHARED * self._unit.max_va
        return max(own - (math.fsum(loads) - own) / 4, least) / self.ladder_va

    def is_home(self, run: AcRun) -> bool:
        """Whether a run lies between the branch board and a joint box."""
        board = self.job.feed.of_kind("branches")
        if self.branch is None or board is None or run not in self.chain.runs:
            return False
        return self.chain.runs.index(run) >= self.chain.rungs.index(board.name)

    def run_a(self, run: AcRun) -> float:
        """The current that a run carries at full output, in its fullest line."""
        view = self.of(run)
        if view.branch is not None and view.is_home(run):
            return len(view.branch.units) * view._unit.line_a
        return self.design_a + other_sources.fullest_a(self.job.feed, self.source, run)

    def run_service(self, run: AcRun) -> Service:
        """How a run is wired."""
        view = self.of(run)
        return view.ladder_service if view.is_home(run) else self.service

    @cached_property
    def latest_supply(self) -> tuple[tuple[float, str], ...]:
        """The last reading of each pair of conductors."""
        return tuple(
            (reading.number, pair)
            for pair in self.pairs
            if (reading := self.readings.latest("supply_voltage", pair)) is not None
        )

    @property
    def measured(self) -> bool:
        return len(self.latest_supply) == len(self.pairs)

    @cached_property
    def supply(self) -> tuple[float, str]:
        """Volts and pair of the highest conductor: the one that trips first; a branch's own."""
        phase = self.branch.phase if self.branch else 0
        own = [one for one in self.latest_supply if phase and one[1] == f"L{phase}-N"]
        return max(own or self.latest_supply, default=(self.source.nominal_v, self.pairs[0]))

    @cached_property
    def supply_readings(self) -> tuple[Reading, ...]:
        """Every reading of the supply that still counts, over the day."""
        return tuple(
            one for pair in self.pairs for one in self.readings.counting("supply_voltage", pair)
        )

    @cached_property
    def high_supply_v(self) -> float:
        """The supply of a high day: the highest that was read, or what the pack expects."""
        expected = self.source.nominal_v * (1 + self.rules.run.high_supply.value / 100)
        return max(expected, *(one.number for one in self.supply_readings), 0.0)

    @cached_property
    def profile(self) -> Profile | None:
        return self.job.grid_profile

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
        source = self.source
        return source.max_a or design_current(
            power_w=source.rated_ac_w, voltage_v=source.nominal_v, service=self.service
        )

    @cached_property
    def board(self) -> FeedDevice | None:
        """The device with the breaker of the inverter's circuit, nearest to the inverter.

        Without one the branch board is the board of the house: each branch has its breaker there.
        """
        fitted = [d for d in self._on_the_way if d.breaker is not None]
        return fitted[-1] if fitted else self.job.feed.of_kind("branches")

    @cached_property
    def breaker(self) -> Breaker | None:
        """The breaker that guards the whole circuit; without one, the branch's own."""
        own = self.board.breaker if self.board else None
        return own or (self.branch.breaker if self.branch else None)

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
        view = self.of(run)
        if view.branch is not None and view.is_home(run):
            return view.branch.breaker.rated_a if view.branch.breaker else None
        if self.behind_breaker(run) and self.board and self.board.breaker:
            return self.board.breaker.rated_a
        return self.board.supply_a if self.board else None

    def breaker_needed(self, run: AcRun) -> str:
        """What is missing where nothing is known to protect a run."""
        view = self.of(run)
        if view.branch is not None and view.is_home(run):
            return say("needs", "branch_breaker", name=view.branch.name)
        return say("needs", "supply_breaker") if self.board else self.breaker_wanted

    @cached_property
    def segments(self) -> tuple[RunSegment, ...] | None:
        """The whole way at working temperature; None with a gap, or a figure in no table."""
        if not self.chain.runs:
            return None
        try:
            runs = tuple(self.segment(run) for run in self.chain.runs)
            return (*runs, *self._trunk_segment())
        except Refused:
            return None

    def _trunk_segment(self) -> tuple[RunSegment, ...]:
        """The trunk as one piece that lifts what it lifts unit by unit. Raises Refused."""
        if self.branch is None:
            return ()
        trunk, plan = self.trunk, self.job.roof_plan
        if trunk is None or trunk.moment_m is None or self.branch.joint is None:
            raise Refused([problem("$.branch", self.branch.name, "a trunk that is known")])
        return (
            RunSegment(
                name=say("branches", "trunk", name=self.branch.name),
                length_m=max(trunk.moment_m / len(self.branch.units), LEAST_TRUNK_M),
                r_ohm_per_km=plan.types_of(self.branch).trunk.r_ohm_per_m * M_PER_KM,
                x_ohm_per_km=0.0,
            ),
        )

    def segment(self, run: AcRun, section_mm2: float | None = None) -> RunSegment:
        """A run at its working temperature, of its own or of another size. Raises Refused."""
        often = self.shared(run)
        return RunSegment(
            name=run.name,
            length_m=run.length_m,
            r_ohm_per_km=often
            * ac_resistance(
                section_mm2=section_mm2 or run.section_mm2,
                conductor_c=self.rules.ac.conductor_temp.value,
                strands=run.strands,
                material=run.material,
                rule_pack=self.rules,
            ),
            x_ohm_per_km=often * self.rules.ac.reactance.value,
        )

    def ampacity(self, run: AcRun, section_mm2: float | None = None) -> Ampacity:
        """What a run carries as it is laid, of its own or of another size. Raises Refused."""
        return conductor_ampacity(
            section_mm2=section_mm2 or run.section_mm2,
            loaded=LOADED[self.run_service(run)],
            insulation=run.insulation,
            terminals=run.terminals,
            method=run.method,
            air_c=run.air_c,
            grouped=run.grouped,
            material=run.material,
            rule_pack=self.rules,
        )


def feed_of(job: Job, readings: Readings, hung: frozenset[str]) -> Feed:
    """The job's feed; on a roof of microinverters, of the branch that stands highest.

    A branch whose way is not known yet comes first: it must not hide behind those that are.
    """
    plan = job.micro
    branches = [one for one in plan.branches if one.units] if plan else []
    if not branches:
        return Feed(job, readings, hung)
    views = [Feed(job, readings, hung, branch) for branch in branches]
    first = max(views, key=_stands)
    first.others = tuple(view for view in views if view is not first)
    return first


def _stands(view: Feed) -> float:
    """Volts of the last unit by the hand formula; without end where the way is not known."""
    run = view.segments
    if run is None:
        return math.inf
    amps = view.ladder_va / view.source.nominal_v
    phases = PHASES[view.ladder_service]
    loop = complex_sum(loop_impedance(run, view.ladder_service)).real
    return view.supply[0] + loop * amps / phases


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
