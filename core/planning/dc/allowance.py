"""What a roof and an inverter allow: lengths of strings, strings beside each other, what clips."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache

from core.base.judgement import worst
from core.equipment.inverter import Tracker
from core.job.job import Job
from core.job.roof import Plane
from core.planning.dc import optimiser_plans
from core.planning.dc.currents import rear_gain
from core.planning.dc.string_plans import StringPlanner, planner_for
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
        site = job.site
        self.planner: StringPlanner = planner_for(
            job.module, job.wall_inverter.dc, site.t_air_min_c, site.t_air_max_c, self.rules
        )
        self.rear_gain = rear_gain(job)
        self.planes: tuple[Plane, ...] = tuple(p for p in job.planes if modules.get(p.name, 0))
        self.faces = self._faces()
        self.trackers: tuple[Tracker, ...] = job.wall_inverter.trackers
        self.most_beside = tuple(self._most_beside(tracker) for tracker in self.trackers)
        self.inputs_from = tuple(sum(self.most_beside[n:]) for n in range(len(self.trackers)))
        self.fits = cache(self._fits)
        self.clips = cache(self._clips)
        self.needs_fuses = cache(self._needs_fuses)
        self.total = sum(modules[plane.name] for plane in self.planes)
        limit_w = job.wall_inverter.max_dc_w
        most_by_power = self.total if limit_w is None else int(limit_w // job.module.pmax_w)
        self.most_modules = min(self.total, most_by_power)

    def _faces(self) -> dict[str, int]:
        tolerance = self.rules.current.alike_deg.value
        groups: list[list[Plane]] = []
        for plane in self.planes:
            # Likeness does not pass on: a plane must be like every other of its group.
            fitting = (g for g in groups if all(planes_alike(plane, p, tolerance) for p in g))
            group = next(fitting, None)
            if group is None:
                groups.append([plane])
            else:
                group.append(plane)
        return {plane.name: n for n, group in enumerate(groups) for plane in group}

    def lengths(self, plane: Plane) -> range:
        """The counts in series that break no hard bound on a plane."""
        sheet = self.job.optimiser
        if sheet is not None:
            if sheet.fixed_string_v > self.job.wall_inverter.dc.max_dc_v:
                return range(0)
            most = optimiser_plans.most_in_string(sheet, self.job.module.pmax_w)
            return range(sheet.least_in_string, most + 1)
        count = self.planner.count(plane.mounting)
        return range(count.least, (count.most or 0) + 1)

    def _fits(self, length: int, mounting: str) -> bool:
        sheet = self.job.optimiser
        judged = (
            optimiser_plans.judged(self.planner, sheet, length)
            if sheet is not None
            else self.planner.judged(length, mounting)
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
            isc_a=self.job.module.isc_a,
            parallel_strings=strings,
            max_short_circuit_a=tracker.max_short_circuit_a,
            isc_factor=self.rules.current.isc_factor.value,
            rear_gain=self.rear_gain,
        )
        return judged.verdict != "stop"

    def _clips(self, number: int, strings: int, length: int) -> bool:
        tracker, load_w = self.trackers[number], strings * length * self.job.module.pmax_w
        if tracker.max_power_w is not None and load_w > tracker.max_power_w:
            return True
        if self.job.optimiser is not None:
            return False
        judged = tracker_imp(
            imp_a=self.job.module.imp_a,
            parallel_strings=strings,
            max_operating_a=tracker.max_operating_a,
            rear_gain=self.rear_gain,
        )
        return judged.verdict == "watch" and judged.margin != 0

    def _needs_fuses(self, strings: int) -> bool:
        fuse_a = self.job.module.max_series_fuse_a
        if strings == 1 or self.job.optimiser is not None or fuse_a is None:
            return False
        return fuse_window(
            isc_a=self.job.module.isc_a,
            parallel_strings=strings,
            max_series_fuse_a=fuse_a,
            rear_gain=self.rear_gain,
            rule_pack=self.rules,
        ).needed
