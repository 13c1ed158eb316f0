"""What is read of a job by name: conductor pairs, switches, tests, steps of making dead."""

from __future__ import annotations

from core.base.glossary import Service
from core.base.stage_numbers import ARRIVE
from core.job.feed import DcMethod, FeedPlan
from core.job.reading_kinds import ReadingKind, kinds_of
from core.job.readings import HALF_WAVES

# What is measured between conductors besides the pairs by which the rise is judged.
NEUTRAL_EARTH = "N-PE"
MORE_PAIRS: dict[str, tuple[str, ...]] = {
    "single": ("L-PE", NEUTRAL_EARTH),
    "split": ("L1-N", "L2-N", NEUTRAL_EARTH),
    "three": ("L1-L2", "L2-L3", "L3-L1", "L1-PE", "L2-PE", "L3-PE", NEUTRAL_EARTH),
}
# What is read of the inverter's nameplate, and of everything that hangs on the wall.
NAMEPLATE_KINDS = kinds_of(stage=ARRIVE, of="inverter")
HUNG_KINDS = kinds_of(of="wall_device")

# Switches at the roof's end of the DC side, by school.
DC_ISOLATOR, SAFETY_SWITCH = "DC isolator", "Safety switch"
DC_SWITCHES: dict[DcMethod, tuple[str, ...]] = {
    "none": (),
    "manual": (DC_ISOLATOR,),
    "automatic": (SAFETY_SWITCH,),
    "both": (DC_ISOLATOR, SAFETY_SWITCH),
}
# The steps by which a supply is made dead, in their order: the AC side first, then DC, locked, the
# capacitors' time waited, the tester proved, dead between all conductors, the tester proved again.
DEAD_STEPS = ("ac_off", "dc_off", "locked", "waited", "tester_before", "dead", "tester_after")
DEAD_SOURCE = "EN 50110-1:2013, 6.2: the five safety rules"

# Between which conductors the supply is measured for the rise (line to neutral, or line to line).
SUPPLY_PAIRS: dict[str, tuple[str, ...]] = {
    "single": ("L-N",),
    "split": ("L1-L2",),
    "three": ("L1-N", "L2-N", "L3-N"),
}


# The ends of a string's leads that somebody on site makes, each with its steps in their order.
STRING_ENDS = ("roof plus", "roof minus", "inverter plus", "inverter minus")
END_STEPS = kinds_of(of="string_end")
# What is done at a unit, in the order of the hand: on the rail, earthed, clicked, closed, labelled.
UNIT_STEPS: tuple[ReadingKind, ...] = (
    "unit_bolt",
    "unit_washer",
    "unit_click",
    "unit_joint",
    "unit_label",
)


def string_end(string: str, end: str) -> str:
    """What one end of a string's leads is called."""
    return f"{string} {end}"


def string_ends(string: str) -> tuple[str, ...]:
    """The ends of a string's leads by name."""
    return tuple(string_end(string, end) for end in STRING_ENDS)


def of_which_string(end: str) -> str:
    """The string that an end is of."""
    return next(end.removesuffix(f" {one}") for one in STRING_ENDS if end.endswith(f" {one}"))


def supply_pairs(feed: FeedPlan, service: Service) -> tuple[str, ...]:
    """Between which conductors the supply is measured: one phase of three is known by its name."""
    if service == "single" and feed.supply_service == "three" and feed.phase:
        return (f"L{feed.phase}-N",)
    return SUPPLY_PAIRS[service]


def test_names(feed: FeedPlan) -> frozenset[str]:
    """What is tested of a feed: its runs, its devices, each of them on both half-waves."""
    devices = [one.name for one in feed.devices]
    halves = (residual_name(name, half) for name in devices for half in HALF_WAVES)
    return frozenset((*devices, *halves, *(run.name for run in feed.runs)))


def residual_name(device: str, half_wave: str) -> str:
    """What a trial of a residual-current device on one half-wave is called."""
    return f"{device} {half_wave}"


def switches(feed: FeedPlan) -> tuple[str, ...]:
    """Isolators of the feed and switches of the DC side, by name."""
    ac = (one.name for one in feed.devices if one.kind == "isolator")
    return (*ac, *DC_SWITCHES[feed.dc.school])


def dead_steps(*, on_wall: bool) -> tuple[str, ...]:
    """The steps of making dead that a plant takes: a roof of microinverters has no DC switch."""
    return DEAD_STEPS if on_wall else tuple(one for one in DEAD_STEPS if one != "dc_off")
