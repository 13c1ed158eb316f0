"""The job: one house's plan, what was read on it, and what was written to its inverter.

Readings and written settings are append-only: a correction is a new reading that supersedes.
The same dataclasses describe the job file (see docs/job-file.md).
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, fields
from datetime import date
from typing import Annotated, Literal, NoReturn, cast
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from core.base.errors import Problem, Refused, problem
from core.base.form import Checked
from core.base.glossary import (
    AltitudeM,
    Identity,
    LatitudeDeg,
    LongitudeDeg,
    Name,
    Note,
    Source,
    TAirMaxC,
    TAirMinC,
)
from core.base.quantity import Items
from core.equipment.inverter import Inverter
from core.equipment.module import Module
from core.equipment.optimiser import Optimiser
from core.figures.grid_profiles import Profile, point_kinds, profile
from core.figures.overrides import Override, OwnPack, effective_pack
from core.figures.rule_packs import RulePack, known_packs
from core.job.ac_source import AcSource, roof_source, wall_source
from core.job.arrival import NOTHING_SETTLED, Arrival
from core.job.day import NOTHING_LAID, DayLayout
from core.job.earthing import NOTHING_BONDED, Earthing
from core.job.feed import CIRCUIT, SIGNAL, FeedPlan, end_name, string_run
from core.job.grid import LETTER, GridPlan
from core.job.leave import NOTHING_LEFT, LeavePlan, Signature, YieldLook
from core.job.microinverter import SWAP_STEPS, GatewayRead, MicroPlan, swap_key
from core.job.reading_kinds import KINDS, ReadingKind, SubjectOf
from core.job.readings import (
    EARTH,
    FUNCTIONAL,
    INVERTER,
    LOOKED_OVER,
    LOSS_MOMENTS,
    SITE,
    Evidence,
    Reading,
    SettingsWritten,
    reading_problems,
)
from core.job.roof import ModulePlace, Plane, place_text
from core.job.sequences import NOTHING_CHOSEN, SWITCHES, StepOverride, Waking, wake_subjects
from core.job.station import UUID_FORM, Station, station_problems
from core.job.strings import StringPlan
from core.job.subjects import (
    DEAD_STEPS,
    MORE_PAIRS,
    SUPPLY_PAIRS,
    string_ends,
    switches,
    test_names,
)
from core.job.talk import TalkPlan, talk_subjects
from core.job.testers import NO_TESTERS, Testing
from core.job.wall import Wall

FORMAT: Literal["long-noon-job"] = "long-noon-job"
VERSION: Literal[3] = 3


@dataclass(frozen=True, kw_only=True)
class Site(Checked):
    """Where the house stands and how cold and hot its air gets.

    altitude_m: None while nobody said; the clear sky is then reckoned for sea level.
    """

    place: Name
    latitude_deg: LatitudeDeg
    longitude_deg: LongitudeDeg
    altitude_m: AltitudeM | None = None
    timezone: Name
    t_air_min_c: TAirMinC
    t_air_max_c: TAirMaxC
    climate_source: Source

    @property
    def height_m(self) -> float:
        """Above the sea, as the clear sky takes it: sea level while nobody said."""
        return 0.0 if self.altitude_m is None else self.altitude_m

    def contradictions(self) -> Iterator[Problem]:
        if self.t_air_min_c >= self.t_air_max_c:
            yield problem(
                "$.t_air_min_c",
                self.t_air_min_c,
                f"below the hottest air, {self.t_air_max_c:g} °C",
                f"The coldest air, {self.t_air_min_c:g} °C, is not below the hottest, "
                f"{self.t_air_max_c:g} °C. Are they swapped?",
            )
        try:
            ZoneInfo(self.timezone)
        except (ZoneInfoNotFoundError, ValueError, OSError):
            yield problem("$.timezone", self.timezone, "a time zone name as Europe/London")


@dataclass(frozen=True, kw_only=True)
class Job(Checked):
    """Everything that is known of one job; nothing that can be computed.

    inverter, strings: of a job with a wall inverter; micro: of a roof of microinverters. Each
    job is one of the two. stations: further wall inverters of the same house; of a job with some,
    what any one inverter needs to be judged is its view (see core/job/house.py).
    own_pack: the user's own rule pack, whole, when `rule_pack` names it. overrides: figures
    replaced for this job alone. retired: planes and strings that were read on and then left the
    plan; their readings stay.
    """

    format: Literal["long-noon-job"]
    version: Literal[3]
    id: Identity
    name: Name
    day: date
    rule_pack: Name
    site: Site
    planes: Annotated[tuple[Plane, ...], Items("roof planes", 0, 20)] = ()
    module: Module
    inverter: Inverter | None = None
    strings: Annotated[tuple[StringPlan, ...], Items("strings", 0, 400)] = ()
    micro: MicroPlan | None = None
    feed: FeedPlan
    grid: GridPlan
    optimiser: Optimiser | None = None
    variant: Note = ""
    arrival: Arrival = NOTHING_SETTLED
    wall: Wall | None = None
    earthing: Earthing = NOTHING_BONDED
    talk: TalkPlan | None = None
    leave: LeavePlan = NOTHING_LEFT
    days: DayLayout = NOTHING_LAID
    own_pack: OwnPack | None = None
    overrides: Annotated[tuple[Override, ...], Items("figures replaced", 0, 60)] = ()
    testing: Testing = NO_TESTERS
    waking: Waking = NOTHING_CHOSEN
    stations: Annotated[tuple[Station, ...], Items("further inverters", 0, 5)] = ()
    retired: Annotated[tuple[Name, ...], Items("names no longer in the plan", 0, 2000)] = ()
    readings: Annotated[tuple[Reading, ...], Items("readings", 0, 20_000)] = ()
    settings_written: Annotated[tuple[SettingsWritten, ...], Items("writes", 0, 2000)] = ()
    evidence: Annotated[tuple[Evidence, ...], Items("pictures and documents", 0, 2000)] = ()
    gateway_reads: Annotated[tuple[GatewayRead, ...], Items("looks at the gateway", 0, 2000)] = ()
    step_overrides: Annotated[tuple[StepOverride, ...], Items("locks overridden", 0, 500)] = ()
    yield_looks: Annotated[tuple[YieldLook, ...], Items("looks at the yield", 0, 500)] = ()
    signatures: Annotated[tuple[Signature, ...], Items("signatures", 0, 500)] = ()

    def contradictions(self) -> Iterator[Problem]:
        if not UUID_FORM.match(self.id):
            yield problem("$.id", self.id, "a UUID in lower case")
        found = [*self._path_problems()]
        if found:
            # What feeds the AC side is not known then, and most of the rest hangs on it.
            yield from found
            return
        found += self._unknown_names()
        found += self._string_problems()
        found += self._roof_problems()
        found += self._place_problems()
        found += self._run_problems()
        found += station_problems(self)
        found += reading_problems(self.readings, self._subjects)
        yield from found
        if self.stations and not found:
            # What one of them alone would be refused for, the house is refused for.
            from core.job.house_views import made_views

            try:
                made_views(self)
            except Refused as refused:
                yield from refused.problems

    def _path_problems(self) -> Iterator[Problem]:
        if (self.inverter is None) == (self.micro is None):
            said = "A job has a wall inverter, or a roof of microinverters: one of the two."
            yield problem("$.inverter", "none" if self.micro is None else "both", "one", said)
        elif self.inverter is None and (self.strings or self.optimiser is not None):
            said = "Microinverters take modules one by one: no strings, no optimisers."
            yield problem("$.strings", len(self.strings), "none on a roof of microinverters", said)

    def _roof_problems(self) -> Iterator[Problem]:
        """Units under modules that are drawn; trunks that begin at a joint box of the feed."""
        if self.micro is None:
            return
        planes = {plane.name: plane for plane in self.planes}
        for index, unit in enumerate(self.micro.units):
            for number, place in enumerate(unit.modules):
                plane = planes.get(place.plane)
                if plane is None or not plane.holds(place.row, place.column):
                    path = f"$.micro.units[{index}].modules[{number}]"
                    allowed = "a module that is drawn on the roof"
                    yield problem(path, place_text(place), allowed)
        for index, one in enumerate(self.micro.types):
            if one.plane not in planes:
                yield problem(f"$.micro.types[{index}].plane", one.plane, " · ".join(planes))
        joints = [one.name for one in self.feed.devices if one.kind == "joint"]
        taken: list[str] = []
        for index, branch in enumerate(self.micro.branches):
            path = f"$.micro.branches[{index}].joint"
            if branch.joint is not None and branch.joint not in joints:
                yield problem(path, branch.joint, " · ".join(joints) or "no joint box is planned")
            elif branch.joint in taken:
                said = f"{branch.joint} is where another branch begins."
                yield problem(path, branch.joint, "a box of no other branch", said)
            elif branch.joint is not None:
                taken.append(branch.joint)

    def _unknown_names(self) -> Iterator[Problem]:
        yield from self._pack_problems()
        yield from _doubled("$.planes", [plane.name for plane in self.planes])
        yield from _doubled("$.strings", [string.name for string in self.strings])

    def _pack_problems(self) -> Iterator[Problem]:
        own = self.own_pack
        known = known_packs() if own is None else (own.id,)
        if self.rule_pack not in known:
            yield problem("$.rule_pack", self.rule_pack, " · ".join(known))
            return
        try:
            rules = self.rules
        except Refused as refused:
            yield from (found.below("$.overrides") for found in refused.problems)
            return
        # One phase of a three-phase house is what a unit feeds there.
        served = self.inverter.service if self.inverter else self.source.service
        if served not in rules.services:
            allowed = f"{' · '.join(rules.services)} in this rule pack"
            path = "$.inverter.service" if self.inverter else "$.micro.unit.service"
            yield problem(path, served, allowed)

    @property
    def rules(self) -> RulePack:
        """The rule pack that judges this job, with its own figures."""
        return effective_pack(self.rule_pack, self.own_pack, self.overrides)

    @property
    def grid_profile(self) -> Profile | None:
        """The grid profile of the plan: a shipped one, or that of the operator's letter."""
        chosen, letter = self.grid.profile, self.grid.letter
        if chosen == LETTER and letter is not None:
            return letter.profile()
        return None if chosen is None else profile(chosen)

    def module_on(self, plane: str) -> Module:
        """The type of module on a plane: its own, or the job's."""
        found = next((one for one in self.planes if one.name == plane), None)
        return self.module if found is None or found.module is None else found.module

    @property
    def module_types(self) -> tuple[Module, ...]:
        """Every type of module on the roof, once; the job's while there is no plane."""
        laid = (one.module or self.module for one in self.planes)
        return tuple(dict.fromkeys(laid)) or (self.module,)

    @property
    def wall_inverter(self) -> Inverter:
        """The inverter that strings hang on. Raises Refused on a roof of microinverters."""
        if self.inverter is None:
            said = "This roof has microinverters: there is no wall inverter and no string."
            raise Refused([problem("$.inverter", "none", "a job with a wall inverter", said)])
        return self.inverter

    @property
    def roof_plan(self) -> MicroPlan:
        """The roof of microinverters. Raises Refused on a job with a wall inverter."""
        if self.micro is None:
            said = "This job has a wall inverter: there are no units and no branches."
            raise Refused([problem("$.micro", "none", "a roof of microinverters", said)])
        return self.micro

    @property
    def drawn_wall(self) -> Wall:
        """The wall. Raises Refused while none is drawn."""
        if self.wall is None:
            raise Refused([problem("$.wall", "none", "a drawn wall: give its outline first")])
        return self.wall

    @property
    def serial_form(self) -> str:
        """How the serials of this job's inverter or units are written."""
        return self.micro.unit.serial_form if self.micro else self.wall_inverter.serial_form

    def serial_form_of(self, unit: str) -> str:
        """How the serial of a unit is written; of anything else that of the job's device."""
        units = self.micro.units if self.micro else ()
        found = next((one for one in units if one.name == unit), None)
        if self.micro is None or found is None:
            return self.serial_form
        return self.micro.sheet_of(found).serial_form

    @property
    def source(self) -> AcSource:
        """What feeds the AC side."""
        return wall_source(self.inverter) if self.inverter else roof_source(self.roof_plan)

    @property
    def own_device(self) -> str | None:
        """The feed's device of the job's own inverter: the one that is no station's."""
        stations = {one.name for one in self.stations}
        return next(
            (
                one.name
                for one in self.feed.devices
                if one.kind == "inverter" and one.name not in stations
            ),
            None,
        )

    def _string_problems(self) -> Iterator[Problem]:
        planes = {plane.name for plane in self.planes}
        trackers = len(self.inverter.trackers) if self.inverter else 0
        for index, string in enumerate(self.strings):
            if string.plane not in planes:
                allowed = " · ".join(sorted(planes))
                yield problem(f"$.strings[{index}].plane", string.plane, allowed)
            if string.tracker > trackers:
                allowed = f"1 to {trackers}, the trackers of this inverter"
                yield problem(f"$.strings[{index}].tracker", string.tracker, allowed)

    def _place_problems(self) -> Iterator[Problem]:
        planes = {plane.name: plane for plane in self.planes}
        taken: dict[ModulePlace, str] = {}
        for index, string in enumerate(self.strings):
            for number, place in enumerate(string.places):
                path, text = f"$.strings[{index}].places[{number}]", place_text(place)
                plane = planes.get(place.plane)
                if plane is None or not plane.holds(place.row, place.column):
                    yield problem(path, text, "a module that is drawn on the roof")
                elif place in taken:
                    said = f"{text} is in string {taken[place]} already."
                    yield problem(path, text, "a module of no other string", said)
                taken[place] = string.name

    def _run_problems(self) -> Iterator[Problem]:
        if self._pack_is_wrong:
            return
        for index, run in enumerate(self.feed.runs):
            path = f"$.feed.runs[{index}].section_mm2"
            yield from _unmade_size(path, run.section_mm2, self.rules.ac_sizes_mm2)
        for index, string in enumerate(self.strings):
            for number, piece in enumerate(string.home_run):
                path = f"$.strings[{index}].home_run[{number}].section_mm2"
                yield from _unmade_size(path, piece.section_mm2, self.rules.dc_sizes_mm2)
        circuits = self.circuits
        for index, one in enumerate(self.feed.containments):
            for number, name in enumerate(one.holds):
                if name not in circuits:
                    path = f"$.feed.containments[{index}].holds[{number}]"
                    yield problem(path, name, " · ".join(circuits))

    @property
    def _pack_is_wrong(self) -> bool:
        return any(True for _ in self._pack_problems())

    @property
    def circuits(self) -> tuple[str, ...]:
        """What may share a containment: AC runs, strings, signals."""
        every = (*self.strings, *(string for one in self.stations for string in one.strings))
        strings = (string_run(string.name) for string in every)
        return (*(run.name for run in self.feed.runs), *strings, SIGNAL)

    @property
    def run_ends(self) -> tuple[str, ...]:
        """The ends of AC runs at their devices, and of home runs at switches on the way."""
        return run_ends(self.feed, self.strings)

    @property
    def switches(self) -> tuple[str, ...]:
        """Isolators of the feed and switches of the DC side, by name."""
        return switches(self.feed)

    def subjects_of(self, kind: ReadingKind) -> frozenset[str]:
        """What may be read of in this job, for a kind of reading."""
        return self._subjects[KINDS[kind].of]

    @property
    def _subjects(self) -> dict[SubjectOf, frozenset[str]]:
        """Everything that may be read of in this job, by what it is."""
        gone = frozenset(self.retired)
        plan, switches = self.micro, frozenset(self.switches)
        parts = test_names(self.feed)
        units = gone | {one.name for one in plan.units} if plan else gone
        talk = talk_subjects(self.talk)
        steps = (swap_key(unit, step) for unit in units for step in SWAP_STEPS)
        return {
            "anything": frozenset(),
            "branch": gone | {one.name for one in plan.branches} if plan else gone,
            "circuit": frozenset({CIRCUIT}),
            "conductor_pair": frozenset(pair for more in MORE_PAIRS.values() for pair in more),
            "containment": gone | {one.name for one in self.feed.containments},
            "dead_step": frozenset(DEAD_STEPS),
            "earth": frozenset({EARTH}),
            "earth_link": gone | {link.name for link in self.earthing.links},
            "every_switch": gone | {INVERTER} | switches | parts,
            "feed_part": gone | parts,
            "inverter": frozenset({INVERTER}),
            "label": frozenset(),
            "look_over": frozenset(LOOKED_OVER),
            "functional": frozenset(FUNCTIONAL),
            "loss_moment": frozenset(LOSS_MOMENTS),
            "module": gone | {text for plane in self.planes for text in plane.module_names},
            "plane": gone | {plane.name for plane in self.planes},
            "run_end": gone | set(self.run_ends),
            "setting": frozenset(point_kinds()),
            "site": frozenset({SITE}),
            "string": gone | {string.name for string in self.strings},
            "string_end": gone.union(*map(string_ends, (*gone, *(s.name for s in self.strings)))),
            "supply_pair": frozenset(pair for pairs in SUPPLY_PAIRS.values() for pair in pairs),
            "swap_step": gone | frozenset(steps),
            "switch": gone | switches,
            "unit": units,
            "wake_step": wake_subjects(),
            "wake_switch": frozenset(SWITCHES),
            "wall_device": gone | {one.name for one in self.wall.devices} if self.wall else gone,
            **{cast(SubjectOf, of): gone | names for of, names in talk.items()},
        }

    @property
    def breakers(self) -> tuple[str, ...]:
        """Devices of the feed that carry a breaker, by name."""
        return tuple(one.name for one in self.feed.devices if one.breaker is not None)

    def only(self, *parts: str) -> Job:
        """This job with some of its parts; to read any other raises.

        What a cache is keyed by: two such jobs are equal where these parts are, and whatever is
        made of one cannot have looked at more.
        """
        seen = object.__new__(Job)
        vars(seen).update(dict.fromkeys(_PARTS, UNSEEN))
        vars(seen).update({name: getattr(self, name) for name in parts})
        return seen

    def plane(self, name: str) -> Plane:
        """The plane of that name."""
        return next(plane for plane in self.planes if plane.name == name)


def run_ends(feed: FeedPlan, strings: tuple[StringPlan, ...]) -> tuple[str, ...]:
    """The ends of AC runs at their devices, and of home runs at switches on the way."""
    ac = (end_name(run.name, name) for run in feed.runs for name in (run.start, run.end))
    dc = (
        end_name(string_run(string.name), piece.to)
        for string in strings
        for piece in string.home_run[:-1]
    )
    return (*ac, *dict.fromkeys(dc))


class _Unseen:
    """A part that is not among those that a cache is keyed by."""

    def _refuse(self, *_: object) -> NoReturn:
        raise LookupError("this part of the job is not among what the cache is keyed by")

    __getattr__ = __iter__ = __len__ = __bool__ = _refuse


UNSEEN = _Unseen()
_PARTS = tuple(field.name for field in fields(Job))
# By what a rule pack is found: a judgement that takes its figures reads all three.
PACK_PARTS = ("rule_pack", "own_pack", "overrides")

# The parts of a job that only grow; the rest is its plan.
KEPT_APART = (
    "readings", "settings_written", "evidence", "gateway_reads", "step_overrides", "yield_looks",
)  # fmt: skip
# Kept apart too, and of the house: there is one record of it.
KEPT_OF_HOUSE = ("signatures",)


def _unmade_size(path: str, section_mm2: float, made: dict[float, str]) -> Iterator[Problem]:
    if section_mm2 not in made:
        allowed = " · ".join(made.values())
        said = f"A conductor of {section_mm2:g} mm² is not made, or in no table: {allowed}."
        yield problem(path, section_mm2, allowed, said)


def _doubled(path: str, names: list[str]) -> Iterator[Problem]:
    seen: set[str] = set()
    for index, name in enumerate(names):
        if name in seen:
            yield problem(f"{path}[{index}].name", name, "each name once")
        seen.add(name)
