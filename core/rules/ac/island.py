"""A house on its own, the supply gone: neutral tied to earth, faults parted, loads reached."""

from __future__ import annotations

from typing import Literal

from core.base.glossary import CurrentA, Name, RatedA
from core.base.judgement import Judgement, at_most, holds, waiting
from core.base.messages import say
from core.base.rule import rule

ISLAND_SOURCE = "IEC 60364-8-82, 826.4; IEC 60364-5-55, 551.4; controller sheet"
GROUP_SOURCE = "battery sheet; controller sheet; circuit theory"

Link = Literal["unit", "fixed", "none"]
Residual = Literal["30", "more", "none"]


@rule
def island_neutral(*, link: Link | None, unit_links: bool | None = None) -> Judgement:
    """Is neutral tied to earth while the supply is parted, and only then?

    unit_links: whether the controller's sheet has it do so; None without a sheet. A fixed link is a
    second one as long as the supply is there: stop. Without any, a fault to earth trips nothing:
    stop.
    Source: IEC 60364-5-55, 551.4; controller sheet.
    """
    if link is None:
        return waiting("island_neutral", "", ISLAND_SOURCE, (say("needs", "neutral_link"),))
    kept = "unit_lacks" if link == "unit" and unit_links is False else link
    good = kept == "unit"
    return holds("island_neutral", good, ISLAND_SOURCE, link=say("neutral_links", kept))


@rule
def island_residual(*, residual: Residual | None) -> Judgement:
    """Does a residual-current device part a fault while the house is on its own?

    An inverter's fault current is small: breakers may not trip on it. 30 mA: clear; more: watch,
    socket outlets want 30 mA; none: stop.
    Source: IEC 60364-5-55, 551.4.4; IEC 60364-4-41, 411.3.3.
    """
    if residual is None:
        return waiting("island_residual", "", ISLAND_SOURCE, (say("needs", "island_residual"),))
    fitted = say("island_residuals", residual)
    bad: Literal["watch", "stop"] = "watch" if residual == "more" else "stop"
    return holds("island_residual", residual == "30", ISLAND_SOURCE, bad=bad, fitted=fitted)


@rule
def island_from_battery(*, current_a: CurrentA, limit_a: RatedA, phase: Name) -> Judgement:
    """Does the battery carry what runs on a phase while the supply is gone?

    Source: battery sheet; inverter sheet.
    """
    return at_most("island_from_battery", current_a, limit_a, "A", GROUP_SOURCE, phase=phase)


@rule
def island_reached(*, dark: str) -> Judgement:
    """Does the battery reach every load that is to be backed up?

    dark: names of those on a phase that no battery feeds; empty where there are none. Watch: they
    do without, nothing breaks.
    Source: battery sheet.
    """
    return holds("island_reached", not dark, GROUP_SOURCE, bad="watch", loads=dark)


@rule
def controller_phases(*, three_phase: bool, unit_phases: Literal["one", "three"]) -> Judgement:
    """Does the controller back up as many phases as are planned?

    Source: controller sheet.
    """
    good = not three_phase or unit_phases == "three"
    return holds("controller_phases", good, "controller sheet")


@rule
def controller_listed(*, listed: bool) -> Judgement:
    """Is the inverter on the list of the controller's maker?

    Source: controller sheet.
    """
    return holds("controller_listed", listed, "controller sheet")
