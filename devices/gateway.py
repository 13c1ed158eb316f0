"""What a gateway lists: the roof units behind it, each one a unit of its Modbus address."""

from __future__ import annotations

import struct
import time
from dataclasses import dataclass

from sunspec2.device import ModelError

from core.job.microinverter import GatewayOutcome, GatewayUnit
from devices.link import Link, LinkProblem
from devices.registers import NOBODY_THERE, Registers, value

# The gateway answers itself as unit 1; its roof units follow.
FIRST_UNIT, LAST_UNIT = 2, 247
# After so many addresses without a unit the list has ended.
GAP_ENDS = 3
COMMON, ONE_PHASE = 1, 101
# SunSpec model 101, St: off, sleeping, standby; above them it feeds.
QUIET_STATES = (1, 2, 8)
MOST_SERIAL_CHARS = 60
# A look that takes longer is given up: what was listed until then would mislead.
LOOK_LIMIT_S = 30.0


@dataclass(frozen=True, kw_only=True)
class GatewayList:
    """How the look ended, with every unit that was listed."""

    outcome: GatewayOutcome
    detail: str
    units: tuple[GatewayUnit, ...]


def read_gateway(host: str, port: int, limit_s: float = LOOK_LIMIT_S) -> GatewayList:
    """Every roof unit that the gateway at an address lists, and whether it reports.

    Never raises for what the line or the gateway does: the outcome says it. A list that broke off
    is none: a unit that was not asked must not look missing.
    """
    ends_at = time.monotonic() + limit_s
    units: list[GatewayUnit] = []
    gap = 0
    try:
        with Link(host, port, FIRST_UNIT - 1) as link:
            for unit_id in range(FIRST_UNIT, LAST_UNIT + 1):
                if time.monotonic() > ends_at:
                    return _broken("silent", f"{len(units)} units listed in {limit_s:g} s")
                link.turn_to(unit_id)
                found = _unit(link)
                gap = 0 if found else gap + 1
                if gap == GAP_ENDS:
                    break
                if found is not None:
                    units.append(found)
    except LinkProblem as problem:
        return _broken(_outcome(problem), problem.detail)
    # A device may say anything in its registers; the model library raises these on nonsense.
    except (ModelError, struct.error, AttributeError, TypeError, ValueError, IndexError) as error:
        return _broken("garbage", str(error))
    return GatewayList(outcome="read", detail="", units=tuple(units))


def _broken(outcome: GatewayOutcome, detail: str) -> GatewayList:
    return GatewayList(outcome=outcome, detail=detail, units=())


def _outcome(problem: LinkProblem) -> GatewayOutcome:
    if problem.outcome in ("unreachable", "closed"):
        return "unreachable"
    return "silent" if problem.outcome == "silent" else "garbage"


def _unit(link: Link) -> GatewayUnit | None:
    """One unit; None where nobody is."""
    try:
        registers = Registers(link)
        registers.require((COMMON, ONE_PHASE))
    except LinkProblem as problem:
        if problem.code in NOBODY_THERE:
            return None
        raise
    serial = str(registers.model(COMMON).points["SN"].value or "").strip("\x00 ")
    feeding = registers.model(ONE_PHASE)
    power_w, state = value(feeding.points["W"]), feeding.points["St"].value
    reporting = state is not None and state not in QUIET_STATES
    return GatewayUnit(
        serial=serial[:MOST_SERIAL_CHARS],
        reporting=reporting,
        power_w=max(power_w, 0.0) if reporting and power_w is not None else None,
    )
