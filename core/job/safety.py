"""What is known of the supply and of the array beside what is planned: asked, seen or looked up."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from core.base.form import Checked
from core.base.glossary import BusbarA, Name, RatedV
from core.base.quantity import Quantity

FaultKa = Annotated[float, Quantity("prospective fault current", "kA", 0.05, 100)]
FlashDensity = Annotated[float, Quantity("lightning flashes per km² and year", "", 0.05, 60)]
LeadM = Annotated[float, Quantity("leads of the surge device, both together", "m", 0, 20)]
ShutdownV = Annotated[float, Quantity("voltage after a shutdown", "V", 0, 1500)]
ShutdownS = Annotated[float, Quantity("time of a shutdown", "s", 0, 600)]


@dataclass(frozen=True, kw_only=True)
class Shutdown(Checked):
    """How the array is made safe at one touch from outside.

    initiator: what is touched, and where. inside_v, outside_v: what stays between conductors inside
    the array's boundary and outside it; seconds: after how long. listed: the equipment is listed
    for it as a system.
    """

    initiator: Name
    inside_v: ShutdownV
    outside_v: ShutdownV
    seconds: ShutdownS
    listed: bool


@dataclass(frozen=True, kw_only=True)
class SafetyFacts(Checked):
    """What was asked, seen or looked up; None where nobody has.

    fault_ka: prospective fault current at the supply. combined_neutral: neutral and earth are one
    conductor in the supply. outbuilding: the inverter stands in a building of its own that takes
    its earth from the house. service_a: the rating of the service, where the inverter joins it on
    the supply's side of the main switch. flashes: lightning, per km² and year. surge_ucpv_v,
    surge_lead_m: of the DC surge device. point: the array can be parted at a point that is
    reached and marked. earth_exposed: the array's earth conductor lies where it can be hurt.
    """

    fault_ka: FaultKa | None = None
    combined_neutral: bool | None = None
    outbuilding: bool = False
    service_a: BusbarA | None = None
    flashes: FlashDensity | None = None
    surge_ucpv_v: RatedV | None = None
    surge_lead_m: LeadM | None = None
    point: bool | None = None
    earth_exposed: bool | None = None
    shutdown: Shutdown | None = None


NOTHING_KNOWN = SafetyFacts()
