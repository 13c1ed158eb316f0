"""What an inverter measures now: volts, hertz, power, trackers, alarms, in one short look."""

from __future__ import annotations

from sunspec2.device import Model

from core.job.live import Alarm, LineVolts, Live, LiveTracker, alarm, state_text
from devices.client import NONSENSE, Line
from devices.link import Link, LinkProblem
from devices.plate import MEASURED, OLD_MEASURED, label
from devices.registers import Registers, value

LIMIT_S = 4.0
DC_PORTS, TRACKERS = 714, 160
# SunSpec model 701, Alrm: the bits in their order.
ALARMS = (
    "ground_fault",
    "dc_over_volt",
    "ac_disconnect",
    "dc_disconnect",
    "grid_disconnect",
    "cabinet_open",
    "manual_shutdown",
    "over_temp",
    "over_frequency",
    "under_frequency",
    "ac_over_volt",
    "ac_under_volt",
    "blown_string_fuse",
    "under_temp",
    "memory_loss",
    "hw_test_failure",
    "manufacturer_alrm",
)
# SunSpec models 101 to 103, Evt1: the same, without the last.
OLD_ALARMS = ALARMS[:-1]
# SunSpec model 701, InvSt, and models 101 to 103, St.
STATES = (
    "off",
    "sleeping",
    "starting",
    "running",
    "throttled",
    "shutting_down",
    "fault",
    "standby",
)
# Where each model has its voltages: the pair as it is measured by hand, and the point.
PAIRS = {
    1: (("L-N", "LNV", "PhVphA"),),
    2: (("L1-L2", "LLV", "PPVphAB"), ("L1-N", "VL1", "PhVphA"), ("L2-N", "VL2", "PhVphB")),
    3: (("L1-N", "VL1", "PhVphA"), ("L2-N", "VL2", "PhVphB"), ("L3-N", "VL3", "PhVphC")),
}
MOST_TRACKERS = 12


def read_live(line: Line, phases: int, limit_s: float = LIMIT_S) -> Live:
    """Look at what the inverter at an address measures now.

    Never raises for what the line or the device does: the outcome says it. phases: of the
    inverter as planned, by which its voltages are named.
    """
    try:
        with Link(line.host, line.port, line.unit_id, limit_s) as link:
            return _look(Registers(link), phases)
    except LinkProblem as problem:
        return Live(outcome=problem.outcome, detail=problem.detail)
    except NONSENSE as error:
        return Live(outcome="garbage", detail=str(error))


def _look(registers: Registers, phases: int) -> Live:
    old = next((model_id for model_id in OLD_MEASURED if model_id in registers.models), None)
    if MEASURED not in registers.models and old is None:
        raise LinkProblem("wrong_device", f"model {MEASURED} is missing")
    is_new = MEASURED in registers.models
    model = registers.model(MEASURED if is_new or old is None else old)
    raw_state = model.InvSt.value if is_new else (model.St.value or 1) - 1
    return Live(
        outcome="read_back",
        detail="",
        device=label(registers),
        state=state_text(STATES[raw_state])
        if raw_state is not None and 0 <= raw_state < len(STATES)
        else "",
        lines=tuple(_lines(model, phases, is_new=is_new)),
        hertz=value(model.Hz),
        power_w=value(model.W),
        trackers=_trackers(registers),
        alarms=_alarms(
            (model.Alrm if is_new else model.Evt1).value, ALARMS if is_new else OLD_ALARMS
        ),
    )


def _lines(model: Model, phases: int, *, is_new: bool) -> list[LineVolts]:
    found = []
    for pair, new_name, old_name in PAIRS[phases]:
        volts = value(model.points[new_name if is_new else old_name])
        if volts is not None:
            found.append(LineVolts(pair=pair, volts=volts))
    return found


def _trackers(registers: Registers) -> tuple[LiveTracker, ...]:
    if DC_PORTS in registers.models:
        model, group = registers.model(DC_PORTS), "Prt"
    elif TRACKERS in registers.models:
        model, group = registers.model(TRACKERS), "module"
    else:
        return ()
    return tuple(
        LiveTracker(
            number=number,
            volts=value(one.points["DCV"]),
            amps=value(one.points["DCA"]),
            watts=value(one.points["DCW"]),
        )
        for number, one in enumerate(model.groups[group][:MOST_TRACKERS], start=1)
    )


def _alarms(bits: int | None, names: tuple[str, ...]) -> tuple[Alarm, ...]:
    """The alarms whose bits stand; one that has no name is told by its number."""
    return tuple(
        alarm(names[bit] if bit < len(names) else "unknown")
        for bit in range(32)
        if (bits or 0) >> bit & 1
    )
