"""What a string is on the roof: on one plane, and drawn as it is planned."""

from __future__ import annotations

from typing import Annotated

from core.base.glossary import ModulesInSeries, Name
from core.base.judgement import Judgement, holds
from core.base.quantity import Items, Quantity
from core.base.rule import rule

Planes = Annotated[tuple[Name, ...], Items("planes that the string lies on", 1, 20)]
Drawn = Annotated[int, Quantity("modules drawn", "", 0, 100)]


@rule
def string_one_plane(*, planes: Planes, each_module_tracked: bool = False) -> Judgement:
    """Does the whole string look the same way?

    A series string over two planes is held back by the darker one: stop, unless each module has
    its own tracking.
    Source: IEC 62548-1:2023, 5.1.
    """
    return holds(
        "string_one_plane",
        len(set(planes)) == 1 or each_module_tracked,
        "IEC 62548-1:2023, 5.1",
        planes=" and ".join(dict.fromkeys(planes)),
    )


@rule
def string_drawn(*, modules_in_series: ModulesInSeries, drawn: Drawn) -> Judgement:
    """Are as many modules drawn on the roof as are planned in series?

    Source: plan against drawing.
    """
    return holds(
        "string_drawn",
        modules_in_series == drawn,
        "plan against the roof drawing",
        bad="watch",
        count=str(modules_in_series),
        drawn=str(drawn),
    )
