"""A job begun from what was typed: what nobody entered is a question, no default."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date
from typing import Annotated

from core.base.errors import Problem, Refused, problem
from core.base.form import Checked, hints, read, write
from core.base.glossary import Mounting
from core.base.messages import say
from core.base.quantity import Text
from core.edits.edit import Catalogue, Entered
from core.edits.fields import typed
from core.edits.roof_text import RoofPart, roof_parts
from core.edits.strings import arranged
from core.equipment.inverter import Inverter
from core.equipment.micro import Micro, Trunk
from core.equipment.module import Module
from core.job.feed import BRANCHES_END, INVERTER_END, SUPPLY_END, FeedDevice, FeedPlan
from core.job.job import FORMAT, VERSION, Job, Site
from core.job.microinverter import MicroPlan
from core.planning.dc.arrangements import Arrangements, arrange

# A planner's table of twenty planes fits.
RoofEntered = Annotated[str, Text("as typed", 0, 1500)]
# What the open register models answer on.
PORT, UNIT = 502, 1
NEW_DEVICE = {"profile": None, "host": "inverter.local", "port": PORT, "unit_id": UNIT}


@dataclass(frozen=True, kw_only=True)
class NewJob(Checked):
    """What is typed to begin a job: with an inverter for strings, or with units and a trunk.

    roof: modules on planes in one line, as "Front 2 x 4, Back 7"; empty while nobody counted.
    strung: the number of the arrangement that was chosen, from 1; empty for no strings yet.
    mounting: of every plane. nothing_else: nothing else feeds the house; else that is open.
    """

    name: Entered
    day: Entered = ""
    place: Entered = ""
    latitude_deg: Entered = ""
    longitude_deg: Entered = ""
    altitude_m: Entered = ""
    timezone: Entered = ""
    t_air_min_c: Entered = ""
    t_air_max_c: Entered = ""
    climate_source: Entered = ""
    rule_pack: Entered = ""
    module: Entered = ""
    inverter: Entered = ""
    micro: Entered = ""
    trunk: Entered = ""
    roof: RoofEntered = ""
    strung: Entered = ""
    mounting: Mounting = "close"
    nothing_else: bool = False


def begun(new: NewJob, catalogue: Catalogue, *, job_id: str, today: date) -> Job:
    """A job from what was typed. Raises Refused with every problem."""
    site = site_of(new)
    module = catalogue.one("modules", new.module, Module, "$.module")
    own = catalogue.own_pack(new.rule_pack)
    parts = roof_parts(new.roof) if new.roof.strip() else ()
    data = {
        "format": FORMAT,
        "version": VERSION,
        "id": job_id,
        "name": new.name,
        "day": new.day or today.isoformat(),
        "rule_pack": new.rule_pack,
        "own_pack": None if own is None else write(own),
        "site": write(site),
        "grid": NEW_DEVICE,
        "module": write(module),
        "planes": [write(replace(one.plane(), mounting=new.mounting)) for one in parts],
        **(_roof(new, catalogue) if new.micro else _strings(new, catalogue)),
    }
    job = read(Job, data)
    return strung(job, parts, new.strung) if new.strung.strip() else job


def site_of(new: NewJob) -> Site:
    """Where the house stands, as typed. Raises Refused with every problem."""
    found: list[Problem] = []
    site: dict[str, object] = {}
    for name, hint in hints(Site).items():
        try:
            site[name] = typed(hint, getattr(new, name), f"$.site.{name}")
        except Refused as refused:
            found.extend(refused.problems)
    if found:
        raise Refused(found)
    try:
        return read(Site, site)
    except Refused as refused:
        raise Refused(one.below("$.site") for one in refused.problems) from None


def ways_to_string(job: Job, parts: tuple[RoofPart, ...]) -> Arrangements:
    """How the modules that were said to lie on each plane go into strings."""
    return arrange(job, {one.name: one.modules for one in parts})


def strung(job: Job, parts: tuple[RoofPart, ...], number: str) -> Job:
    """The job strung in one of those ways. Raises Refused: there is none of that number."""
    ways = ways_to_string(job, parts).ranked
    if not number.strip().isdigit() or not 1 <= int(number) <= len(ways):
        allowed = f"1 to {len(ways)}" if ways else say("begin", "no_way")
        raise Refused([problem("$.strung", number, allowed)])
    return arranged(job, ways[int(number) - 1].strings)


def _strings(new: NewJob, catalogue: Catalogue) -> dict[str, object]:
    """A wall inverter of which neither strings nor cable are known yet."""
    inverter = catalogue.one("inverters", new.inverter, Inverter, "$.inverter")
    return {"feed": _unknown(INVERTER_END, new), "inverter": write(inverter)}


def _roof(new: NewJob, catalogue: Catalogue) -> dict[str, object]:
    """A roof of microinverters that is still to be drawn."""
    unit = catalogue.one("micros", new.micro, Micro, "$.micro")
    trunk = catalogue.one("trunks", new.trunk, Trunk, "$.trunk")
    plan = write(MicroPlan(unit=unit, trunk=trunk))
    return {"micro": plan, "feed": _unknown(BRANCHES_END, new)}


def _unknown(end: FeedDevice, new: NewJob) -> object:
    """A feed of which nobody said yet what cable runs."""
    others = () if new.nothing_else else None
    return write(FeedPlan(devices=(SUPPLY_END, end), others=others))
