"""What the hand is asked and answers, as JSON text: the one door of the core in a browser."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from datetime import datetime
from typing import Any

from core.base.errors import Refused
from core.base.form import as_text, read, write
from core.base.json_text import parse_json
from core.explain.sums import sum_of
from core.files.touches import named
from core.hand.changes import changes
from core.hand.held import Held, digest, kept_ids
from core.hand.press import Hand, Press, read_press
from core.hand.shelf import CrewShelf
from core.job.house import alone
from core.job.job import Job
from core.job.older_versions import present
from core.job.readings import Reading
from core.shown import Shown
from core.sky import CarriedSky, sun_carried

Asked = dict[str, Any]
_held: dict[str, Held] = {}
# What was told of a job last: the next answer tells what changed since.
_told: dict[str, Shown] = {}


def answer(text: str) -> str:
    """One question answered; what is refused is said as the server says it."""
    asked: Any = parse_json(text.encode())
    try:
        return _ASKED[asked["do"]](asked)
    except Refused as refused:
        return as_text({"refused": refused.problems})


def _open(asked: Asked) -> str:
    """Takes a job in the hand, with what was pressed before and is not kept yet."""
    given = asked["given"]
    base = read(Job, present(given["house"]))
    held = Held(
        base=base,
        house=base,
        revision=given["revision"],
        of=asked["job"],
        hand=_hand(given),
    )
    arrived = _arrived(base, given)
    waiting = tuple(one for one in _readable(asked["waiting"]) if one.id not in arrived)
    _held[asked["job"]] = held.with_waiting(waiting)
    _told.pop(asked["job"], None)
    return _look(asked)


def _hand(given: Asked) -> Hand:
    return Hand(
        by=given["by"],
        learner=given["learner"],
        only_with_server=tuple(given["only_with_server"]),
        shelf=CrewShelf(given["sheets"], given["packs"]),
        sky=read(CarriedSky, given["sky"]),
    )


def _arrived(base: Job, given: Asked) -> frozenset[str]:
    """What was pressed and is in a state of the server, though its answer was lost on the way."""
    return kept_ids(base) | frozenset(given["pressed"])


def _readable(waiting: list[Asked]) -> list[Press]:
    """What was pressed, as far as this version of the core can still read it."""
    made = []
    for one in waiting:
        try:
            made.append(read_press(one))
        except Refused:
            continue
    return made


def _look(asked: Asked) -> str:
    return as_text(_looked(asked))


def _looked(asked: Asked) -> dict[str, Any]:
    """What is shown of a job, as what changed since it was told last; the first time, whole."""
    held = _held[asked["job"]]
    made = held.shown(_at(asked))
    before = _told.get(asked["job"])
    _told[asked["job"]] = made
    return {"changes": changes(before, made), "revision": held.revision}


def _press(asked: Asked) -> str:
    press = read_press(asked["press"])
    _held[asked["job"]] = _held[asked["job"]].pressed(press)
    return as_text(_looked(asked) | {"said": _said(press)})


def _said(press: Press) -> str:
    """What a change of the plan is, in the field's terms; a reading's line says what it is."""
    if press.edit is not None:
        return str(write(press.edit)["do"]).replace("_", " ")
    return ", ".join(f"{named(one.path)[0]} {one.entered}" for one in press.changes)


def _try(asked: Asked) -> str:
    return as_text({"ask": _held[asked["job"]].tried(read_press(asked["press"]))})


def _confirm(asked: Asked) -> str:
    """The server kept a press; compare: whether it judges the same by what was said there and
    then, which nobody asks while more of it is on the way."""
    kept = asked["reading"]
    reading = None if kept is None else read(Reading, kept)
    held = _held[asked["job"]].confirmed(asked["id"], reading)
    _held[asked["job"]] = held
    found: Asked = {"count": held.kept_count, "revision": held.revision}
    if asked["compare"]:
        found["digest"] = digest(replace(held, house=held.base).shown(_at(asked)))
    return as_text(found)


def _drop(asked: Asked) -> str:
    _held[asked["job"]] = _held[asked["job"]].without(asked["id"])
    return _look(asked)


def _rebase(asked: Asked) -> str:
    """Another state of the server under what waits."""
    given = asked["given"]
    base = read(Job, present(given["house"]))
    held, arrived = _held[asked["job"]], _arrived(base, given)
    # Another page of this browser may have sent some of it.
    gone = {one.id for one in held.waiting} - set(asked["waiting"])
    held = replace(held, hand=_hand(given))
    moved, contests = held.rebased(base, given["revision"], arrived | gone, _at(asked))
    _held[asked["job"]] = moved
    return as_text({"contests": contests, **_looked(asked)})


def _house(asked: Asked) -> str:
    """The state of the server as it is known here, to be kept on the device."""
    held = _held[asked["job"]]
    return as_text({"house": write(alone(held.base)), "revision": held.revision})


def _sum(asked: Asked) -> str:
    found = sum_of(_held[asked["job"]].job, asked["rule"], asked["reason"], at=_at(asked))
    return as_text({"sum": found})


def _sun(asked: Asked) -> str:
    """The sun over the job by the sky that is carried along; none where it says nothing of it."""
    held = _held[asked["job"]]
    return as_text({"sun": sun_carried(held.job, held.hand.sky, _at(asked))})


def _at(asked: Asked) -> datetime:
    return read(datetime, asked["at"], "$.at")


_ASKED: dict[str, Callable[[Asked], str]] = {
    "open": _open,
    "look": _look,
    "press": _press,
    "try": _try,
    "confirm": _confirm,
    "drop": _drop,
    "rebase": _rebase,
    "house": _house,
    "sum": _sum,
    "sun": _sun,
}
