"""A string as it is planned: its modules, its tracker, its way to the inverter."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Annotated

from core.base.errors import Problem, problem
from core.base.form import Checked
from core.base.glossary import FuseA, ModulesInSeries, Name
from core.base.quantity import Items, Quantity
from core.job.feed import HomeRun
from core.job.roof import ModulePlace, place_text


@dataclass(frozen=True, kw_only=True)
class StringPlan(Checked):
    """One string: how many modules in series, on which plane, to which tracker.

    places: its modules on the roof from the minus end to the plus end; empty when not drawn.
    fuse_a: the fuse in each of its poles, where it has one. home_run: its way to the inverter,
    piece by piece from the array; empty while it is not known.
    """

    name: Name
    tracker: Annotated[int, Quantity("tracker", "", 1, 4)]
    plane: Name
    modules_in_series: ModulesInSeries
    places: Annotated[tuple[ModulePlace, ...], Items("modules on the roof", 0, 100)] = ()
    fuse_a: FuseA | None = None
    home_run: Annotated[tuple[HomeRun, ...], Items("pieces of the home run", 0, 6)] = ()

    def contradictions(self) -> Iterator[Problem]:
        for index, place in enumerate(self.places):
            if place in self.places[:index]:
                yield problem(f"$.places[{index}]", place_text(place), "each module once")
