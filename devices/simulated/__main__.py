"""Run simulated inverters: python -m devices.simulated HOST:PORT=TEMPER ..."""

from __future__ import annotations

import asyncio
import sys

from devices.simulated.inverter import TEMPERS, SimulatedInverter, Temper, serve

UNIT_ID = 1


def parse(argument: str) -> tuple[str, int, Temper]:
    """HOST:PORT=TEMPER as its parts; ValueError when it is not that."""
    address, _, temper = argument.partition("=")
    host, _, port = address.rpartition(":")
    known = next((one for one in TEMPERS if one == temper), None)
    if known is None:
        raise ValueError(f"{argument}: temper is one of {', '.join(TEMPERS)}")
    return host, int(port), known


async def serve_all(arguments: list[str]) -> None:
    """Serve every inverter named, until the process ends."""
    servers = []
    for number, (host, port, temper) in enumerate(map(parse, arguments), start=1):
        inverter = SimulatedInverter(serial=f"V5-{number:04d}", temper=temper)
        servers.append(serve(inverter, host, port, UNIT_ID))
    await asyncio.gather(*servers)


if __name__ == "__main__":
    try:
        asyncio.run(serve_all(sys.argv[1:]))
    except KeyboardInterrupt:
        sys.exit(0)
