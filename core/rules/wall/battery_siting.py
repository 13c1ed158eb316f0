"""Where a battery may hang: the room, the way out, openings beside it, what is under it."""

from __future__ import annotations

from core.base.glossary import AcrossMm, Name, Room
from core.base.judgement import Judgement, at_least, holds, waiting
from core.base.messages import say
from core.base.rule import rule
from core.figures.rule_packs import GENERIC, RulePack

PLACE_SOURCE = "rule pack (rooms); battery sheet"
HEAT_SOURCE = "battery sheet (ambient temperature); trade practice"


@rule
def battery_room(*, room: Room | None, outdoors: bool, rule_pack: RulePack = GENERIC) -> Judgement:
    """May a battery hang in this room? room: None while nobody has said; no matter outdoors.

    Source: rule pack (rooms).
    """
    if room is None and not outdoors:
        return waiting("battery_room", "", PLACE_SOURCE, (say("needs", "battery_room"),))
    rules = rule_pack.wall
    good = outdoors or room not in rules.battery_rooms
    named = say("rooms", "outdoors" if outdoors or room is None else room)
    return holds("battery_room", good, rules.battery_rooms_source, room=named)


@rule
def battery_way_out(*, on_way_out: bool | None) -> Judgement:
    """Is the battery off the way on which people leave the house? None: nobody has said.

    Source: rule pack (rooms); local fire code.
    """
    if on_way_out is None:
        return waiting("battery_way_out", "", PLACE_SOURCE, (say("needs", "battery_way_out"),))
    return holds("battery_way_out", not on_way_out, PLACE_SOURCE)


@rule
def battery_opening(*, gap_mm: AcrossMm, beside: Name, rule_pack: RulePack = GENERIC) -> Judgement:
    """Does the battery keep its distance from a door or window?

    Source: rule pack.
    """
    least = rule_pack.wall.battery_opening
    return at_least("battery_opening", gap_mm, least.value, "mm", least.source, beside=beside)


@rule
def battery_below(*, under: str) -> Judgement:
    """Is nothing warm below the battery? under: what hangs there, empty where nothing does.

    Warm air rises: a battery above an inverter is warmed by it. Watch.
    Source: battery sheet; trade practice.
    """
    return holds("battery_below", not under, HEAT_SOURCE, bad="watch", under=under)
