"""Run simulated devices: python -m devices.simulated HOST:PORT=TEMPER HOST:PORT=ROSTER.json ..."""

from __future__ import annotations

import asyncio
import sys
from pathlib import Path

from pymodbus.simulator import SimDevice

from devices.simulated.gateway import SimulatedGateway, roster
from devices.simulated.inverter import TEMPERS, SimulatedInverter, Temper, serve

UNIT_ID = 1


def parse(argument: str) -> tuple[str, int, Temper | Path]:
    """HOST:PORT=TEMPER or HOST:PORT=ROSTER.json as its parts; ValueError when it is not that."""
    address, _, what = argument.partition("=")
    host, _, port = address.rpartition(":")
    if what.endswith(".json"):
        return host, int(port), Path(what)
    known = next((one for one in TEMPERS if one == what), None)
    if known is None:
        raise ValueError(f"{argument}: one of {', '.join(TEMPERS)}, or a roster of roof units")
    return host, int(port), known


def _devices(what: Temper | Path, number: int) -> list[SimDevice]:
    if isinstance(what, Path):
        return SimulatedGateway(roster(what)).devices()
    return [SimulatedInverter(serial=f"V5-{number:04d}", temper=what).device(UNIT_ID)]


async def serve_all(arguments: list[str]) -> None:
    """Serve every device named, until the process ends."""
    servers = [
        serve(_devices(what, number), host, port)
        for number, (host, port, what) in enumerate(map(parse, arguments), start=1)
    ]
    await asyncio.gather(*servers)


if __name__ == "__main__":
    try:
        asyncio.run(serve_all(sys.argv[1:]))
    except KeyboardInterrupt:
        sys.exit(0)
