"""A job begun from what was typed: what nobody entered is a question, no default."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from core.base.errors import Problem, Refused
from core.base.form import Checked, hints, read, write
from core.edits.edit import Catalogue, Entered
from core.edits.fields import typed
from core.equipment.inverter import Inverter
from core.equipment.micro import Micro, Trunk
from core.equipment.module import Module
from core.job.feed import BRANCHES_END, INVERTER_END, SUPPLY_END, FeedDevice, FeedPlan
from core.job.job import FORMAT, VERSION, Job, Site
from core.job.microinverter import MicroPlan

# What the open register models answer on.
PORT, UNIT = 502, 1
NEW_DEVICE = {"profile": None, "host": "inverter.local", "port": PORT, "unit_id": UNIT}


@dataclass(frozen=True, kw_only=True)
class NewJob(Checked):
    """What is typed to begin a job: with an inverter for strings, or with units and a trunk."""

    name: Entered
    day: Entered
    place: Entered
    latitude_deg: Entered
    longitude_deg: Entered
    altitude_m: Entered
    timezone: Entered
    t_air_min_c: Entered
    t_air_max_c: Entered
    climate_source: Entered
    rule_pack: Entered
    module: Entered
    inverter: Entered = ""
    micro: Entered = ""
    trunk: Entered = ""


def begun(new: NewJob, catalogue: Catalogue, *, job_id: str, today: date) -> Job:
    """A job from what was typed. Raises Refused with every problem."""
    found: list[Problem] = []
    site: dict[str, object] = {}
    for name, hint in hints(Site).items():
        try:
            site[name] = typed(hint, getattr(new, name), f"$.site.{name}")
        except Refused as refused:
            found.extend(refused.problems)
    if found:
        raise Refused(found)
    module = catalogue.one("modules", new.module, Module, "$.module")
    own = catalogue.own_pack(new.rule_pack)
    data = {
        "format": FORMAT,
        "version": VERSION,
        "id": job_id,
        "name": new.name,
        "day": new.day or today.isoformat(),
        "rule_pack": new.rule_pack,
        "own_pack": None if own is None else write(own),
        "site": site,
        "grid": NEW_DEVICE,
        "module": write(module),
        **(_roof(new, catalogue) if new.micro else _strings(new, catalogue)),
    }
    return read(Job, data)


def _strings(new: NewJob, catalogue: Catalogue) -> dict[str, object]:
    """A wall inverter of which neither strings nor cable are known yet."""
    inverter = catalogue.one("inverters", new.inverter, Inverter, "$.inverter")
    return {"feed": _unknown(INVERTER_END), "inverter": write(inverter)}


def _roof(new: NewJob, catalogue: Catalogue) -> dict[str, object]:
    """A roof of microinverters that is still to be drawn."""
    unit = catalogue.one("micros", new.micro, Micro, "$.micro")
    trunk = catalogue.one("trunks", new.trunk, Trunk, "$.trunk")
    return {"micro": write(MicroPlan(unit=unit, trunk=trunk)), "feed": _unknown(BRANCHES_END)}


def _unknown(end: FeedDevice) -> object:
    """A feed of which nobody said yet what cable runs, and what else feeds the house."""
    return write(FeedPlan(devices=(SUPPLY_END, end), others=None))
