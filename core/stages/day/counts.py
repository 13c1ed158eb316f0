"""How much of each task a job has, from its plan, and what of it is done, from what was read."""

from __future__ import annotations

from collections import Counter
from math import fsum

from core.assessment.whole import Assessment, Prompt
from core.job.job import Job
from core.planning.day.tasks import Counted, kinds

# A string is read once its open circuit is.
OPEN_CIRCUIT = "open_circuit"


def counted(job: Job, said: Assessment) -> Counted:
    """What there is to do, by kind of task, and which kinds were done."""
    return _less_what_is_read(job, said, whole(job, said))


def whole(job: Job, said: Assessment) -> Counted:
    """All there is to do on a job, as if nothing of it were done."""
    goods = {line.id: line.needed or 0.0 for line in said.arrive.lines}
    runs = [one for one in job.feed.runs if not one.of_network]
    modules = goods.get("modules", 0.0)
    apart = modules if job.optimiser is not None else 0.0
    counts = {
        "unload": float(len(said.arrive.lines)),
        "ladder": float(modules > 0),
        "hooks": goods.get("hooks", 0.0),
        "rails": goods.get("rail_m", 0.0),
        "units": float(len(job.micro.units)) if job.micro else apart,
        "modules": modules,
        "home": fsum(piece.length_m for one in job.strings for piece in one.home_run),
        "ends": float(sum(len(one.ends) for one in said.string.strings)) if said.string else 0.0,
        "wall": float(sum(len(one.holes) for one in said.hang.devices)),
        **_hung(said),
        "ac_run": fsum(one.length_m for one in runs),
        "ac_ends": float(2 * len(runs)),
        "loop": 1.0,
        "earth": float(len(said.earth.links)),
        "insulation": float(len(job.strings) + len(runs)),
        "ports": float(sum(int(one.cores or 0) for one in (job.talk.wires if job.talk else ()))),
        "network": float(job.talk is not None),
        "pairing": float(job.micro is not None or job.optimiser is not None),
        "labels": float(sum(one.count for one in said.leave.labels if not one.without)),
    }
    planes = Counter(one.plane for one in job.strings)
    return Counted(
        counts=tuple(counts.items()),
        planes=tuple(sorted(planes.items())),
        done=frozenset(),
    )


def _less_what_is_read(job: Job, said: Assessment, all_of_it: Counted) -> Counted:
    """What is still to do: pieces that were read one by one are taken off."""
    counts = dict(all_of_it.counts)
    read = {one.subject for one in said.asks if one.kind == OPEN_CIRCUIT and one.reading}
    planes = Counter(one.plane for one in job.strings if one.name not in read)
    for kind in kinds():
        own = _asked(kind.timed_by, said.asks)
        if own and kind.id in counts and not kind.sun:
            counts[kind.id] *= sum(one.reading is None for one in own) / len(own)
    return Counted(
        counts=tuple(counts.items()),
        planes=tuple(sorted(planes.items())),
        done=frozenset(one.id for one in kinds() if one.reads and _done(one.reads, said.asks)),
    )


def _hung(said: Assessment) -> dict[str, float]:
    """Devices to hang: batteries, what two lift, and the rest."""
    batteries = [one for one in said.hang.devices if one.kind == "battery"]
    heavy = [one for one in said.hang.devices if one.lift.people > 1 and one not in batteries]
    rest = len(said.hang.devices) - len(batteries) - len(heavy)
    return {
        "hang": float(rest),
        "hang heavy": float(len(heavy)),
        "hang battery": float(len(batteries)),
    }


def _done(kinds_read: tuple[str, ...], asks: tuple[Prompt, ...]) -> bool:
    """Whether everything was read by which a task is known to be done."""
    own = _asked(kinds_read, asks)
    return bool(own) and all(one.reading is not None for one in own)


def _asked(kinds_read: tuple[str, ...], asks: tuple[Prompt, ...]) -> list[Prompt]:
    return [one for one in asks if one.kind in kinds_read and not one.optional]
