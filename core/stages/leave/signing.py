"""How far a record is signed: by whom, of which state, and what was taken on."""

from __future__ import annotations

from collections.abc import Iterator
from textwrap import shorten

from core.assessment.leave import RoleState, SignState, WatchLine
from core.assessment.whole import OpenPoint
from core.base.judgement import Judgement, worst
from core.base.messages import say
from core.job.job import Job
from core.job.leave import SIGN_ROLES, Signature, SignRole
from core.job.state import state_digest
from core.rules.leave.signing import record_signable, record_signed, watches_taken_on

# What is open is said of its first in a line.
MOST_SAID = 120
# What comes after the record, or is the signing itself: no signature waits for it.
AFTERWARDS = frozenset({
    "record_signed", "watches_taken_on", "look_due", "yield_as_due", "part_gives", "days_complete",
    "energy_sign",
})  # fmt: skip


def to_sign(open_points: tuple[OpenPoint, ...]) -> tuple[OpenPoint, ...]:
    """What of everything open the record is signed with, or not at all."""
    return tuple(one for one in open_points if one.judgement.rule_id not in AFTERWARDS)


def watch_key(point: OpenPoint) -> str:
    """By what a watch is taken on: where it is, what was judged, and what was said of it."""
    return f"{point.stage} {point.where} {point.judgement.rule_id}: {point.judgement.reason}"[:300]


def sign_state(job: Job, open_points: tuple[OpenPoint, ...]) -> SignState:
    """How far the record is signed. Signatures that came in a file sign nothing here."""
    given = [one for one in job.signatures if not one.from_file]
    open_points = to_sign(open_points)
    digest = state_digest(job) if given else ""
    last = {role: _last(given, role) for role in SIGN_ROLES}
    current = {role for role, one in last.items() if one is not None and one.of == digest}
    answered = last["answers"]
    taken = answered.took_on if answered is not None and "answers" in current else ()
    by = answered.name if answered is not None else ""
    watches = [one for one in open_points if one.judgement.verdict == "watch"]
    keys = tuple(dict.fromkeys(watch_key(one) for one in watches))
    judged = tuple(_judged(open_points, keys, taken, by, current, given))
    signed = len(current) == len(SIGN_ROLES)
    verdict = worst(one.verdict for one in judged)
    return SignState(
        verdict=verdict,
        line=say("signing", "signed") if signed else judged[-1].reason,
        digest=digest,
        signed=signed,
        changed=bool(given) and not current,
        roles=tuple(_role(role, last[role], role in current) for role in SIGN_ROLES),
        watches=tuple(
            WatchLine(
                key=watch_key(one),
                where=one.where or say("stages", str(one.stage)),
                reason=one.judgement.reason,
                by=by if watch_key(one) in taken else "",
            )
            for one in {watch_key(each): each for each in watches}.values()
        ),
        judgements=judged,
    )


def _last(given: list[Signature], role: SignRole) -> Signature | None:
    return next((one for one in reversed(given) if one.role == role), None)


def _judged(
    open_points: tuple[OpenPoint, ...],
    keys: tuple[str, ...],
    taken: tuple[str, ...],
    by: str,
    current: set[SignRole],
    given: list[Signature],
) -> Iterator[Judgement]:
    yield signable(open_points)
    if keys:
        yield watches_taken_on(watches=keys, taken=taken, by=by)
    missing = tuple(say("signers", role) for role in SIGN_ROLES if role not in current)
    yield record_signed(missing=missing, changed=bool(given) and not current)


def signable(open_points: tuple[OpenPoint, ...]) -> Judgement:
    """Whether what is open lets the record be signed."""
    stops = [one for one in open_points if one.judgement.verdict == "stop"]
    waits = [one for one in open_points if one.judgement.verdict == "waiting"]
    first = next(iter((*stops, *waits)), None)
    said = ""
    if first is not None:
        why = first.judgement.reason.split(". ")[0].rstrip(".")
        said = shorten(f"{say('stages', str(first.stage))}: {why}", MOST_SAID, placeholder="…")
    return record_signable(stops=len(stops), waits=len(waits), first=said)


def _role(role: SignRole, one: Signature | None, current: bool) -> RoleState:
    return RoleState(
        role=role,
        title=say("signers", role),
        about=say("signers", f"{role}_about"),
        name=one.name if one else "",
        licence=one.licence if one else "",
        at=one.at if one else None,
        form=one.form if one else None,
        drawn=one.drawn if one else "",
        note=one.note if one else "",
        current=current,
    )
