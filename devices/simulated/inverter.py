"""A simulated inverter: a real Modbus TCP server over the open register models."""

from __future__ import annotations

import asyncio
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from typing import Any, Literal

from pymodbus.constants import ExcCodes
from pymodbus.server import ModbusTcpServer
from pymodbus.simulator import DataType, SimData, SimDevice
from sunspec2.device import Model

from devices.simulated.image import BASE_ADDRESS, registers

# sound: does as it is told. forgets: says it adopted, keeps its factory over-voltage step.
# locked: refuses every write until unlocked on its display.
Temper = Literal["sound", "forgets", "locked"]
TEMPERS: tuple[Temper, ...] = ("sound", "forgets", "locked")

FORGOTTEN_MODEL = 708
WRITE_MULTIPLE, WRITE_SINGLE = 16, 6
NONE_REQUESTED = 0


@dataclass(frozen=True, kw_only=True)
class Slots:
    """Where one model keeps its slots, and the register that asks to adopt one."""

    model_id: int
    request: int
    result: int
    starts: tuple[int, ...]
    length: int
    read_only_offset: int


class SimulatedInverter:
    """Holds a register image; answers reads, checks writes, adopts slots."""

    def __init__(self, serial: str, nominal_v: float = 230.0, temper: Temper = "sound") -> None:
        self._temper = temper
        values, placed = registers(serial, nominal_v)
        self._values = values
        self._slots = [
            slots
            for model_id, (address, model) in placed.items()
            if (slots := _slots(model_id, address, model)) is not None
        ]

    def device(self, unit_id: int) -> SimDevice:
        """The simulated device for a Modbus server."""
        data = SimData(BASE_ADDRESS, values=list(self._values), datatype=DataType.REGISTERS)
        return SimDevice(unit_id, simdata=[data], action=self._on_access)

    async def _on_access(
        self,
        function: int,
        start: int,
        address: int,
        count: int,
        current: list[int],
        written: list[int] | list[bool] | None,
    ) -> ExcCodes | None:
        if written is None or function not in (WRITE_MULTIPLE, WRITE_SINGLE):
            return None
        if self._temper == "locked":
            return ExcCodes.DEVICE_BUSY
        last = address + count - 1
        for slots in self._slots:
            if slots.starts[0] <= last and address < slots.starts[0] + slots.length:
                return ExcCodes.ILLEGAL_ADDRESS
            if address <= slots.request <= last:
                self._adopt(slots, int(written[slots.request - address]), start, current)
        return None

    def _adopt(self, slots: Slots, slot_number: int, start: int, current: list[int]) -> None:
        if slot_number == NONE_REQUESTED or slot_number > len(slots.starts):
            return
        source, target = slots.starts[slot_number - 1] - start, slots.starts[0] - start
        if not (self._temper == "forgets" and slots.model_id == FORGOTTEN_MODEL):
            for offset in range(slots.length):
                if offset != slots.read_only_offset:
                    current[target + offset] = current[source + offset]
        current[slots.result - start] = 1


def _slots(model_id: int, address: int, model: Model) -> Slots | None:
    names = ("Crv", "AdptCrvReq", "AdptCrvRslt") if "Crv" in model.groups else None
    names = ("Ctl", "AdptCtlReq", "AdptCtlRslt") if "Ctl" in model.groups else names
    if names is None:
        return None
    group, request, result = names
    slots = model.groups[group]
    first = slots[0]
    return Slots(
        model_id=model_id,
        request=address + model.points[request].offset,
        result=address + model.points[result].offset,
        starts=tuple(address + slot.offset for slot in slots),
        length=slots[1].offset - first.offset,
        read_only_offset=first.points["ReadOnly"].offset - first.offset,
    )


async def serve(devices: list[SimDevice], host: str, port: int) -> None:
    """Answer on an address until cancelled."""
    await ModbusTcpServer(devices, address=(host, port)).serve_forever()


def _port(listening: Any) -> int:
    port: int = listening.sockets[0].getsockname()[1]
    return port


@contextmanager
def running(inverter: SimulatedInverter, unit_id: int = 1) -> Iterator[int]:
    """A simulated inverter on a free port of this machine, in a thread of its own."""
    with answering([inverter.device(unit_id)]) as port:
        yield port


@contextmanager
def answering(devices: list[SimDevice]) -> Iterator[int]:
    """Simulated devices on a free port of this machine, in a thread of their own."""
    ready = threading.Event()
    loop = asyncio.new_event_loop()
    found: list[int] = []
    server: list[ModbusTcpServer] = []

    async def start() -> None:
        server.append(ModbusTcpServer(devices, address=("127.0.0.1", 0)))
        await server[0].serve_forever(background=True)
        found.append(_port(server[0].transport))
        ready.set()

    def work() -> None:
        asyncio.set_event_loop(loop)
        loop.run_until_complete(start())
        loop.run_forever()

    thread = threading.Thread(target=work, daemon=True)
    thread.start()
    if not ready.wait(timeout=10):
        raise RuntimeError("the simulated device did not start")
    try:
        yield found[0]
    finally:
        asyncio.run_coroutine_threadsafe(server[0].shutdown(), loop).result(timeout=5)
        loop.call_soon_threadsafe(loop.stop)
        thread.join(timeout=5)
        loop.close()
