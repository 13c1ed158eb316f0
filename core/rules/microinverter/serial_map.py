"""The serial map of a roof of microinverters, and what the gateway makes of it."""

from __future__ import annotations

from typing import Annotated

from core.base.glossary import Minutes, Name, Note, Units
from core.base.judgement import Judgement, holds, waiting
from core.base.messages import figure, say
from core.base.quantity import Text
from core.base.rule import rule

MAP_SOURCE = "units' labels against the plan"
GATEWAY_SOURCE = "gateway's list against the map"
SHOWN = 4

Serial = Annotated[str, Text("serial", 0, 500)]


def shown_names(names: tuple[str, ...]) -> str:
    """The first names, and how many more there are."""
    rest = len(names) - SHOWN
    shown = ", ".join(names[:SHOWN])
    return say("gateway", "more", names=shown, rest=str(rest)) if rest > 0 else shown


@rule
def serial_fits(*, unit: Name, serial: Serial, fits: bool, form: Note) -> Judgement:
    """Is the unit's serial written as this maker's serials are?

    Source: unit sheet (form of the serial).
    """
    return holds("serial_fits", fits, MAP_SOURCE, unit=unit, serial=serial, form=form)


@rule
def serial_alone(*, unit: Name, serial: Serial, others: tuple[str, ...]) -> Judgement:
    """Does the serial stand on this unit alone?

    Source: units' labels against the plan.
    """
    also = shown_names(others)
    return holds("serial_alone", not others, MAP_SOURCE, unit=unit, serial=serial, others=also)


@rule
def map_complete(*, taken: Units, units: Units, missing: tuple[str, ...]) -> Judgement:
    """Is the serial of every unit on the map?

    Source: units' labels against the plan.
    """
    if missing:
        return waiting(
            "map_complete", "", MAP_SOURCE, (say("needs", "serials", names=shown_names(missing)),)
        )
    return holds("map_complete", taken == units, MAP_SOURCE, units=str(units))


@rule
def gateway_agrees(
    *, missing: tuple[str, ...], foreign: tuple[str, ...], doubled: tuple[str, ...] = ()
) -> Judgement:
    """Does the gateway list exactly the units of the map, each once?

    A unit that it does not list will never report; one that is on no map is another roof's, or
    was misread here.
    Source: gateway's list against the map.
    """
    said = (
        say("gateway", "not_listed", names=shown_names(missing)) if missing else "",
        say("gateway", "not_ours", names=shown_names(foreign)) if foreign else "",
        say("gateway", "twice", names=shown_names(doubled)) if doubled else "",
    )
    return holds(
        "gateway_agrees",
        not (missing or foreign or doubled),
        GATEWAY_SOURCE,
        said=" ".join(one for one in said if one),
    )


@rule
def units_report(
    *, late: tuple[str, ...], of: Units, minutes: Minutes, expected_min: Minutes
) -> Judgement:
    """Do all units of a branch report within the time that their sheet gives?

    Not all yet within it: waiting. Later than that: watch, with which are late.
    Source: unit sheet.
    """
    reporting = str(of - len(late))
    if late and minutes < expected_min:
        return waiting(
            "units_report",
            "",
            "unit sheet",
            (say("needs", "reports", late=str(len(late)), of=str(of)),),
        )
    return holds(
        "units_report",
        not late,
        "unit sheet",
        bad="watch",
        reporting=reporting,
        of=str(of),
        late=shown_names(late),
        minutes=figure(expected_min, "min"),
    )


@rule
def serial_lookalike(*, serial: Serial, others: tuple[str, ...]) -> str:
    """Which of some serials differs from this in a single sign? Empty where none does.

    Source: own default: what a misread label looks like.
    """
    return next(
        (
            one
            for one in others
            if len(one) == len(serial) and sum(map(str.__ne__, one, serial)) == 1
        ),
        "",
    )
