"""Run simulated devices: python -m devices.simulated HOST:PORT=WHAT ...

WHAT is a kind of inverter, its label and its faults, as ``new``, ``old,serial=VT00000009``,
``three,model=Ten,watts=10000,slow,refuses=707``; with ``follows=JOB.json`` it measures what that
job's strings give in the sun of their place, behind the job's switches. Or WHAT is the roster
of a gateway, as ``roof.json``, or a meter as it is ordered, as ``meter.json``.
"""

from __future__ import annotations

import asyncio
import sys
from dataclasses import dataclass
from pathlib import Path

from pymodbus.simulator import SimDevice

from devices.simulated.faults import NAMES, SOUND, Faults, faults
from devices.simulated.gateway import SimulatedGateway, roster
from devices.simulated.image import KINDS, Made
from devices.simulated.inverter import SimulatedInverter, serve
from devices.simulated.meter import SimulatedMeter, meter_order
from devices.simulated.plant import Followed

UNIT_ID = 1
LABEL = ("serial", "model", "watts", "volts", "wh", "follows")


@dataclass(frozen=True, kw_only=True)
class Ordered:
    """One simulated device as it was ordered: an inverter, or a gateway's roster."""

    host: str
    port: int
    made: Made | None = None
    faults: Faults = SOUND
    follows: Path | None = None
    roster: Path | None = None


def parse(argument: str, number: int = 1) -> Ordered:
    """HOST:PORT=WHAT as its parts; ValueError that says what is possible.

    number: by which it gets a serial when none is ordered.
    """
    address, _, what = argument.partition("=")
    host, _, port = address.rpartition(":")
    if what.endswith(".json") and "," not in what:
        return Ordered(host=host, port=int(port), roster=Path(what))
    word, *words = what.split(",")
    kind = next((one for one in KINDS if one == word), None)
    if kind is None:
        allowed = f"{', '.join(KINDS)}, then any of {', '.join((*LABEL, *NAMES))}; or a .json"
        raise ValueError(f"{argument}: {allowed}")
    label = dict(one.split("=", 1) for one in words if one.partition("=")[0] in LABEL)
    wrong = ",".join(one for one in words if one.partition("=")[0] not in LABEL)
    made = Made(
        serial=label.get("serial", f"VF{number:08d}"),
        kind=kind,
        model=label.get("model", "Five"),
        rated_w=int(label.get("watts", "5000")),
        counted_wh=int(label.get("wh", "0")),
        nominal_v=float(label.get("volts", "230")),
    )
    return Ordered(
        host=host,
        port=int(port),
        made=made,
        faults=faults(wrong),
        follows=Path(label["follows"]) if "follows" in label else None,
    )


def _devices(ordered: Ordered) -> list[SimDevice]:
    if ordered.roster is not None:
        if "long-noon-meter" in ordered.roster.read_text(encoding="utf-8"):
            return [SimulatedMeter(meter_order(ordered.roster)).device()]
        return SimulatedGateway(roster(ordered.roster)).devices()
    made = ordered.made or Made(serial="")
    follows = Followed(ordered.follows, made.nominal_v) if ordered.follows else None
    return [SimulatedInverter(made, ordered.faults, follows=follows).device(UNIT_ID)]


async def serve_all(arguments: list[str]) -> None:
    """Serve every device named, until the process ends."""
    servers = [
        serve(_devices(one), one.host, one.port, one.faults)
        for one in (parse(argument, number) for number, argument in enumerate(arguments, start=1))
    ]
    await asyncio.gather(*servers)


if __name__ == "__main__":
    try:
        asyncio.run(serve_all(sys.argv[1:]))
    except ValueError as error:
        sys.exit(str(error))
    except KeyboardInterrupt:
        sys.exit(0)
