"""A simulated gateway: every roof unit of its roster is a unit of one Modbus address."""

from __future__ import annotations

import json
import struct
import time
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Annotated, Any

from pymodbus.constants import ExcCodes
from pymodbus.simulator import DataType, SimData, SimDevice
from sunspec2.device import Model

from core.base.form import Checked, read
from core.base.glossary import Name
from core.base.quantity import Items, Quantity
from devices.gateway import COMMON, FIRST_UNIT, ONE_PHASE
from devices.simulated.image import BASE_ADDRESS

SLEEPING, FEEDING = 2, 4
ANY_OTHER = 0
AfterS = Annotated[float, Quantity("seconds until it reports", "s", 0, 86_400)]


@dataclass(frozen=True, kw_only=True)
class Listed(Checked):
    """One unit of a roster. reports_after_s: from the gateway's start; None: never."""

    serial: Name
    reports_after_s: AfterS | None = 0.0
    power_w: Annotated[float, Quantity("power", "W", 0, 5000)] = 230.0


@dataclass(frozen=True, kw_only=True)
class Roster(Checked):
    """What a simulated gateway has in its list."""

    name: Name
    units: Annotated[tuple[Listed, ...], Items("units", 0, 246)]


def roster(path: Path) -> Roster:
    """A roster from its file. Raises Refused."""
    data: Any = json.loads(path.read_text(encoding="utf-8"))
    return read(Roster, data, "$roster")


class SimulatedGateway:
    """Holds a register image for itself and for each unit; units come up one after another."""

    def __init__(self, listed: Roster, now: Callable[[], float] = time.monotonic) -> None:
        self._roster = listed
        self._now = now
        self._started = now()

    def devices(self) -> list[SimDevice]:
        """The simulated devices for a Modbus server."""
        own = SimDevice(FIRST_UNIT - 1, simdata=[_data(_image(self._roster.name, "Gateway"))])
        return [own, _nobody(), *(self._unit(at, one) for at, one in enumerate(self._roster.units))]

    def _unit(self, at: int, listed: Listed) -> SimDevice:
        image = _image(listed.serial, "Unit")
        state, power = _offsets()

        async def on_access(
            function: int,
            start: int,
            address: int,
            count: int,
            current: list[int],
            written: list[int] | list[bool] | None,
        ) -> ExcCodes | None:
            if written is not None:
                return ExcCodes.ILLEGAL_FUNCTION
            reports = self._reports(listed)
            current[state] = FEEDING if reports else SLEEPING
            current[power] = round(listed.power_w) if reports else 0
            return None

        return SimDevice(FIRST_UNIT + at, simdata=[_data(image)], action=on_access)

    def _reports(self, listed: Listed) -> bool:
        after = listed.reports_after_s
        return after is not None and self._now() - self._started >= after


def _nobody() -> SimDevice:
    """Every address without a unit: the gateway says that nobody answers there."""

    async def on_access(*_: object) -> ExcCodes | None:
        return ExcCodes.GATEWAY_NO_RESPONSE

    return SimDevice(ANY_OTHER, simdata=[_data(_image("", ""))], action=on_access)


def _models(serial: str, model: str) -> list[Model]:
    common = {
        "ID": COMMON, "Mn": "Skerrow", "Md": model, "Opt": "", "Vr": "2.1", "SN": serial, "DA": 1,
    }  # fmt: skip
    feeding = {
        "ID": ONE_PHASE, "A": 0, "A_SF": -2, "PhVphA": 2300, "V_SF": -1, "W": 0, "W_SF": 0,
        "Hz": 5000, "Hz_SF": -2, "WH": 0, "WH_SF": 0, "St": SLEEPING,
    }  # fmt: skip
    return [Model(COMMON, data=common), Model(ONE_PHASE, data=feeding)]


def _image(serial: str, model: str) -> list[int]:
    image = b"SunS"
    for made in _models(serial, model):
        made.points["L"].value = made.len - 2
        image += made.get_mb()
    image += struct.pack(">HH", 0xFFFF, 0)
    return list(struct.unpack(f">{len(image) // 2}H", image))


def _offsets() -> tuple[int, int]:
    """Where state and power stand in a unit's image."""
    common, feeding = _models("", "")
    first = 2 + common.len
    return first + feeding.points["St"].offset, first + feeding.points["W"].offset


def _data(image: list[int]) -> SimData:
    return SimData(BASE_ADDRESS, values=image, datatype=DataType.REGISTERS)
