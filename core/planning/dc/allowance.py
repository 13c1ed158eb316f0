"""What a roof and an inverter allow: lengths of strings, strings beside each other, what clips."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache

from core.base.judgement import worst
from core.equipment.inverter import Tracker
from core.equipment.module import Module
from core.job.job import Job
from core.job.roof import Plane
from core.planning.dc import optimiser_plans
from core.planning.dc.currents import rear_gain, strong_a
from core.planning.dc.string_plans import StringPlanner, planner_on
from core.rules.dc.string_fuses import fuse_window
from core.rules.dc.tracker_current import planes_alike, tracker_imp, tracker_isc


class Allowance:
    """The bounds that every arrangement of a roof on an inverter must keep, each found once.

    faces: planes that may share a tracker have one number. most_beside: how many strings each
    tracker bears beside each other; inputs_from: in all from that tracker on. most_modules: what
    the inverter may have connected of the roof's `total`.
    """

    def __init__(self, job: Job, modules: Mapping[str, int]) -> None:
        self.job, self.modules, self.rules = job, modules, job.rules
        self.planes: tuple[Plane, ...] = tuple(p for p in job.planes if modules.get(p.name, 0))
        # Of several types the strongest and the heaviest bound them all.
        types = [job.module_on(plane.name) for plane in self.planes] or [job.module]
        self.strongest = max(types, key=lambda one: strong_a(job, one))
        self.strong_a = strong_a(job, self.strongest)
        self.heaviest_w = max(one.pmax_w for one in types)
        self.faces = self._faces()
        self.trackers: tuple[Tracker, ...] = job.wall_inverter.trackers
        self.most_beside = tuple(self._most_beside(tracker) for tracker in self.trackers)
        self.inputs_from = tuple(sum(self.most_beside[n:]) for n in range(len(self.trackers)))
        self.fits = cache(self._fits)
        self.clips = cache(self._clips)
        self.needs_fuses = cache(self._needs_fuses)
        self.total = sum(modules[plane.name] for plane in self.planes)
        limit_w = job.wall_inverter.max_dc_w
        most_by_power = self.total if limit_w is None else int(limit_w // self.heaviest_w)
        self.most_modules = min(self.total, most_by_power)

    def _faces(self) -> dict[str, int]:
        tolerance = self.rules.current.alike_deg.value
        groups: list[list[Plane]] = []
        for plane in self.planes:
            # Likeness does not pass on: a plane must be like every other of its group.
            fitting = (g for g in groups if all(self._alike(plane, p, tolerance) for p in g))
            group = next(fitting, None)
            if group is None:
                groups.append([plane])
            else:
                group.append(plane)
        return {plane.name: n for n, group in enumerate(groups) for plane in group}

    def _alike(self, one: Plane, other: Plane, tolerance_deg: float) -> bool:
        of_one_type = self.job.module_on(one.name) == self.job.module_on(other.name)
        return of_one_type and planes_alike(one, other, tolerance_deg)

    def planner(self, plane: str) -> StringPlanner:
        """The volts of any count of a plane's modules."""
        return planner_on(self.job, plane)

    def lengths(self, plane: Plane) -> range:
        """The counts in series that break no hard bound on a plane."""
        sheet = self.job.optimiser
        if sheet is not None:
            if sheet.fixed_string_v > self.job.wall_inverter.dc.max_dc_v:
                return range(0)
            most = optimiser_plans.most_in_string(sheet, self.job.module_on(plane.name).pmax_w)
            return range(sheet.least_in_string, most + 1)
        count = self.planner(plane.name).count(plane.mounting)
        return range(count.least, (count.most or 0) + 1)

    def _fits(self, length: int, name: str) -> bool:
        sheet, planner = self.job.optimiser, self.planner(name)
        judged = (
            optimiser_plans.judged(planner, sheet, length)
            if sheet is not None
            else planner.judged(length, self.job.plane(name).mounting)
        )
        # A limit met exactly is a watch, but it is inside.
        return worst(one.verdict for one in judged if one.margin != 0) == "clear"

    def _most_beside(self, tracker: Tracker) -> int:
        if self.job.optimiser is not None:
            return tracker.inputs
        bears = [n for n in range(1, tracker.inputs + 1) if self._bears(tracker, n)]
        return max(bears, default=0)

    def _bears(self, tracker: Tracker, strings: int) -> bool:
        judged = tracker_isc(
            isc_a=self.strongest.isc_a,
            parallel_strings=strings,
            max_short_circuit_a=tracker.max_short_circuit_a,
            isc_factor=self.rules.current.isc_factor.value,
            rear_gain=rear_gain(self.job, self.strongest),
        )
        return judged.verdict != "stop"

    def module_facing(self, face: int) -> Module:
        """The one type of module of all planes that face so."""
        return self.job.module_on(next(name for name, one in self.faces.items() if one == face))

    def _clips(self, number: int, strings: int, length: int, face: int) -> bool:
        module = self.module_facing(face)
        tracker, load_w = self.trackers[number], strings * length * module.pmax_w
        if tracker.max_power_w is not None and load_w > tracker.max_power_w:
            return True
        if self.job.optimiser is not None:
            return False
        judged = tracker_imp(
            imp_a=module.imp_a,
            parallel_strings=strings,
            max_operating_a=tracker.max_operating_a,
            rear_gain=rear_gain(self.job, module),
        )
        return judged.verdict == "watch" and judged.margin != 0

    def _needs_fuses(self, strings: int, face: int) -> bool:
        module = self.module_facing(face)
        fuse_a = module.max_series_fuse_a
        if strings == 1 or self.job.optimiser is not None or fuse_a is None:
            return False
        return fuse_window(
            isc_a=module.isc_a,
            parallel_strings=strings,
            max_series_fuse_a=fuse_a,
            rear_gain=rear_gain(self.job, module),
            rule_pack=self.rules,
        ).needed
