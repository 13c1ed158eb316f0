"""A simulated energy meter whose clamps can be turned round, swapped, or of another ratio."""

from __future__ import annotations

import json
import math
import struct
import time
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Annotated, Any, Literal

from pymodbus.constants import ExcCodes
from pymodbus.simulator import DataType, SimData, SimDevice
from sunspec2.device import Model

from core.base.form import Checked, read
from core.base.glossary import Name
from core.base.quantity import Items, Quantity
from devices.meter import ONE_PHASE_METER, PHASE_POINTS, THREE_PHASE_METER
from devices.simulated.image import BASE_ADDRESS

COMMON, UNIT_ID = 1, 1
# Between phases of three: a third of a turn.
APART_DEG = 120.0
Phase = Annotated[int, Quantity("phase", "", 1, 3)]
Watts = Annotated[float, Quantity("power", "W", -100_000, 100_000)]
Seconds = Annotated[float, Quantity("time", "s", 0, 86_400)]


@dataclass(frozen=True, kw_only=True)
class Switched(Checked):
    """A load that is on for a while; the inverter's output is a load below nought."""

    phase: Phase
    watts: Watts
    from_s: Seconds
    to_s: Seconds


@dataclass(frozen=True, kw_only=True)
class MeterOrder(Checked):
    """A meter as it is ordered. on_phase: round which phase each clamp sits; turned: clamps with
    their arrow the other way; ratio: what each counts instead of once."""

    format: Literal["long-noon-meter"]
    serial: Name
    phases: Annotated[int, Quantity("phases", "", 1, 3)] = 1
    base_w: Annotated[tuple[Watts, ...], Items("loads of the house", 1, 3)] = (300.0,)
    on_phase: Annotated[tuple[Phase, ...], Items("clamps", 0, 3)] = ()
    turned: Annotated[tuple[Phase, ...], Items("clamps turned round", 0, 3)] = ()
    ratio: Annotated[float, Quantity("ratio", "", 0.01, 100)] = 1.0
    loads: Annotated[tuple[Switched, ...], Items("loads switched", 0, 40)] = ()


def meter_order(path: Path) -> MeterOrder:
    """A meter from its file. Raises Refused."""
    data: Any = json.loads(path.read_text(encoding="utf-8"))
    return read(MeterOrder, data, "$meter")


class SimulatedMeter:
    """Holds the registers of a meter; its loads go on and off by its own clock."""

    def __init__(self, order: MeterOrder, now: Callable[[], float] = time.monotonic) -> None:
        self._order, self._now, self._started = order, now, now()

    def device(self) -> SimDevice:
        """The simulated device for a Modbus server."""
        offsets = _offsets(self._order.phases)

        async def on_access(
            function: int, start: int, address: int, count: int, current: list[int], written: Any
        ) -> ExcCodes | None:
            if written is not None:
                return ExcCodes.ILLEGAL_FUNCTION
            for offset, watts in zip(offsets, self.shown_w(), strict=False):
                current[offset] = struct.unpack(">H", struct.pack(">h", round(watts)))[0]
            return None

        data = SimData(BASE_ADDRESS, values=_image(self._order), datatype=DataType.REGISTERS)
        return SimDevice(UNIT_ID, simdata=[data], action=on_access)

    def shown_w(self) -> tuple[float, ...]:
        """What each channel shows: its own voltage with the current of the phase it sits on."""
        order, at_s = self._order, self._now() - self._started
        phases = range(1, order.phases + 1)
        true_w = [order.base_w[(one - 1) % len(order.base_w)] for one in phases]
        for load in order.loads:
            if load.from_s <= at_s < load.to_s and load.phase <= order.phases:
                true_w[load.phase - 1] += load.watts
        on = order.on_phase or tuple(phases)
        shown = []
        for channel, phase in enumerate(on[: order.phases], start=1):
            angle = math.radians(APART_DEG * (phase - channel))
            sign = -1.0 if channel in order.turned else 1.0
            shown.append(sign * order.ratio * math.cos(angle) * true_w[phase - 1])
        return tuple(shown)


def _models(order: MeterOrder) -> list[Model]:
    meter = THREE_PHASE_METER if order.phases > 1 else ONE_PHASE_METER
    common = {
        "ID": COMMON, "Mn": "Fenbrow", "Md": "M", "Opt": "", "Vr": "1.4", "SN": order.serial,
        "DA": 1,
    }  # fmt: skip
    power = {"ID": meter, "A": 0, "A_SF": -2, "PhV": 2300, "V_SF": -1, "W": 0, "W_SF": 0}
    return [Model(COMMON, data=common), Model(meter, data=power)]


def _image(order: MeterOrder) -> list[int]:
    image = b"SunS"
    for made in _models(order):
        made.points["L"].value = made.len - 2
        image += made.get_mb()
    image += struct.pack(">HH", 0xFFFF, 0)
    return list(struct.unpack(f">{len(image) // 2}H", image))


def _offsets(phases: int) -> tuple[int, ...]:
    """Where the power of each phase stands in the image."""
    common, power = _models(MeterOrder(format="long-noon-meter", serial="x", phases=phases))
    first = 2 + common.len
    return tuple(first + power.points[name].offset for name in PHASE_POINTS[:phases])
