"""A simulated inverter: a real Modbus TCP server over the open register models."""

from __future__ import annotations

import asyncio
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, replace
from typing import Any

from pymodbus.constants import ExcCodes
from pymodbus.server import ModbusTcpServer
from pymodbus.server.requesthandler import ServerRequestHandler
from pymodbus.simulator import DataType, SimData, SimDevice
from sunspec2.device import Model

from devices.simulated.faults import MOST_ALARMS, OTHER_SERIAL, SOUND, Faults
from devices.simulated.image import BASE_ADDRESS, Made, registers
from devices.simulated.plant import Followed, live_registers

FORGOTTEN_MODEL = 708
WRITE_MULTIPLE, WRITE_SINGLE = 16, 6
NONE_REQUESTED = 0
# What a device that rounds makes of its curves' registers: percent of volts, millihertz, seconds.
ROUNDED = {"V": 100, "Hz": 100, "Tms": 100}
ROUNDED_OLD = {"VMax": 10, "VMin": 10}


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
    """Holds a register image; answers reads, checks writes, adopts slots, fails as ordered."""

    def __init__(
        self,
        made: Made,
        faults: Faults = SOUND,
        now: Callable[[], float] = time.monotonic,
        follows: Followed | None = None,
    ) -> None:
        self.faults = faults
        self._follows = follows
        self._now = now
        self._written_at: float | None = None
        answers_as = replace(made, serial=OTHER_SERIAL) if faults.stranger else made
        values, placed = registers(answers_as)
        self._placed = placed
        self._factory = _alarmed(values, placed, faults.alarms)
        self._live, self._start = self._factory, BASE_ADDRESS
        self._slots = [
            slots
            for model_id, (address, model) in placed.items()
            if (slots := _slots(model_id, address, model)) is not None
        ]
        self._spans = {
            model_id: range(address, address + model.len)
            for model_id, (address, model) in placed.items()
        }
        self._coarse = _coarse(placed) if faults.rounds else {}

    def device(self, unit_id: int) -> SimDevice:
        """The simulated device for a Modbus server."""
        return register_device(self._factory, unit_id, self._on_access)

    async def _on_access(
        self,
        function: int,
        start: int,
        address: int,
        count: int,
        current: list[int],
        written: Any,
    ) -> ExcCodes | None:
        self._live, self._start = current, start
        self._power_cycle(start, current)
        measured = self._follows.measured() if self._follows else None
        for at, value in live_registers(measured, self._placed) if measured else ():
            current[at - start] = value
        if written is None or function not in (WRITE_MULTIPLE, WRITE_SINGLE):
            return None
        if self.faults.locked:
            return ExcCodes.DEVICE_BUSY
        last = address + count - 1
        if self.faults.refuses and last in self._spans.get(self.faults.refuses, ()):
            return ExcCodes.ILLEGAL_VALUE
        self._written_at = self._now()
        for slots in self._slots:
            if slots.starts[0] <= last and address < slots.starts[0] + slots.length:
                return ExcCodes.ILLEGAL_ADDRESS
            if address <= slots.request <= last:
                self._adopt(slots, int(written[slots.request - address]), start, current)
        for at in range(address, last + 1):
            step = self._coarse.get(at)
            if step:
                written[at - address] = round(int(written[at - address]) / step) * step
        return None

    def held(self) -> list[int]:
        """The register image as it stands now."""
        offset = BASE_ADDRESS - self._start
        return self._live[offset : offset + len(self._factory)]

    def _power_cycle(self, start: int, current: list[int]) -> None:
        """Back to the factory's settings, once, when the time of `resets` is over."""
        at, after_s = self._written_at, self.faults.resets
        if not after_s or at is None or self._now() - at < after_s:
            return
        self._written_at = None
        offset = BASE_ADDRESS - start
        current[offset : offset + len(self._factory)] = self._factory

    def _adopt(self, slots: Slots, slot_number: int, start: int, current: list[int]) -> None:
        if slot_number == NONE_REQUESTED or slot_number > len(slots.starts):
            return
        source, target = slots.starts[slot_number - 1] - start, slots.starts[0] - start
        if not (self.faults.forgets and slots.model_id == FORGOTTEN_MODEL):
            for offset in range(slots.length):
                if offset != slots.read_only_offset:
                    current[target + offset] = current[source + offset]
        current[slots.result - start] = 1


def register_device(values: list[int], unit_id: int = 1, action: Any = None) -> SimDevice:
    """A Modbus device that holds a register image."""
    data = SimData(BASE_ADDRESS, values=list(values), datatype=DataType.REGISTERS)
    return SimDevice(unit_id, simdata=[data], action=action)


def _alarmed(values: list[int], placed: dict[int, tuple[int, Model]], alarms: int) -> list[int]:
    """The image with its first alarms standing, those of the supply before all others."""
    raised = [10, 4, *(bit for bit in range(MOST_ALARMS) if bit not in (10, 4))][:alarms]
    bits = sum(1 << bit for bit in raised)
    for model_id, name in ((701, "Alrm"), (101, "Evt1")):
        if bits and model_id in placed:
            address, model = placed[model_id]
            at = address + model.points[name].offset - BASE_ADDRESS
            values[at], values[at + 1] = bits >> 16, bits & 0xFFFF
    return values


def _coarse(placed: dict[int, tuple[int, Model]]) -> dict[int, int]:
    """Which registers hold only multiples of what."""
    found: dict[int, int] = {}
    for address, model in placed.values():
        for name, step in ROUNDED_OLD.items():
            if name in model.points:
                found[address + model.points[name].offset] = step
        for curve in model.groups.get("Crv", ()):
            trip = curve.groups.get("MustTrip")
            for point in trip.Pt if trip is not None else ():
                found |= {
                    # The last register of a point holds its smaller half.
                    address + one.offset + one.len - 1: ROUNDED[name]
                    for name, one in point.points.items()
                    if name in ROUNDED
                }
    return found


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


class _Handler(ServerRequestHandler):
    """One connection: slow, and hung up on, as ordered."""

    def __init__(self, owner: FaultyServer, *traces: Any) -> None:
        super().__init__(owner, *traces)
        self._faults = owner.faults
        self._answered = 0

    async def handle_request(self) -> None:
        if self._faults.slow:
            await asyncio.sleep(self._faults.slow)
        if self._faults.drops and self._answered >= self._faults.drops:
            self.close()
            return
        self._answered += 1
        await super().handle_request()


class FaultyServer(ModbusTcpServer):
    """A Modbus TCP server whose line has the faults that were ordered."""

    def __init__(
        self, devices: list[SimDevice], address: tuple[str, int], faults: Faults = SOUND
    ) -> None:
        super().__init__(devices, address=address)
        self.faults = faults

    def callback_new_connection(self) -> ServerRequestHandler:
        """Handle a connection with its faults."""
        return _Handler(self, self.trace_packet, self.trace_pdu, self.trace_connect)


async def serve(devices: list[SimDevice], host: str, port: int, faults: Faults = SOUND) -> None:
    """Answer on an address until cancelled."""
    await FaultyServer(devices, (host, port), faults).serve_forever()


def _port(listening: Any) -> int:
    port: int = listening.sockets[0].getsockname()[1]
    return port


async def _end(server: FaultyServer) -> None:
    """Close a server and what it is still busy with."""
    await server.shutdown()
    busy = asyncio.all_tasks() - {asyncio.current_task()}
    for task in busy:
        task.cancel()
    await asyncio.gather(*busy, return_exceptions=True)


@contextmanager
def running(inverter: SimulatedInverter, unit_id: int = 1) -> Iterator[int]:
    """A simulated inverter on a free port of this machine, in a thread of its own."""
    with answering([inverter.device(unit_id)], inverter.faults) as port:
        yield port


@contextmanager
def answering(devices: list[SimDevice], faults: Faults = SOUND) -> Iterator[int]:
    """Simulated devices on a free port of this machine, in a thread of their own."""
    ready = threading.Event()
    loop = asyncio.new_event_loop()
    found: list[int] = []
    server: list[FaultyServer] = []

    async def start() -> None:
        server.append(FaultyServer(devices, ("127.0.0.1", 0), faults))
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
        asyncio.run_coroutine_threadsafe(_end(server[0]), loop).result(timeout=5)
        loop.call_soon_threadsafe(loop.stop)
        thread.join(timeout=5)
        loop.close()
