"""Signing a record: who may, of which state, and freezing it once all have."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, date, datetime
from uuid import UUID, uuid4

from django.contrib.auth.models import User
from django.db import transaction

from core.assess import assess
from core.assessment.whole import OpenPoint
from core.base.errors import Refused, problem
from core.base.messages import say
from core.job.house import views
from core.job.job import Job
from core.job.leave import SIGN_ROLES, Signature, SignForm, SignRole
from core.job.state import state_digest
from core.rules.leave.signing import signature_counts
from core.stages.leave.signing import signable, to_sign, watch_key
from server.jobs.stored import load_house
from server.people.audit import audit, shown_name
from server.people.models import Licence
from server.platform.problems import Conflict
from server.signing.models import SignatureRow
from server.signing.versions import freeze


@dataclass(frozen=True, kw_only=True)
class Given:
    """A signature as it is given. state: digest of the job that the signer saw."""

    role: SignRole
    name: str
    form: SignForm
    drawn: str
    took_on: tuple[str, ...]
    note: str
    state: str


def sign(person: User, job_id: UUID, given: Given) -> None:
    """Keep a signature; with the last of the three the record is frozen.

    Raises Refused for a signature that does not count, and over anything open; Conflict where the
    job is no longer as it was shown. Then nothing is kept.
    """
    with transaction.atomic():
        house = load_house(job_id)
        now = datetime.now(UTC)
        state = state_digest(views(house)[0])
        if given.state != state:
            raise Conflict("The job changed since it was shown. Look at it again, then sign.")
        points = open_of(house, now)
        judged = signable(points)
        if judged.verdict != "clear":
            raise Refused([problem("$.record", judged.verdict, "nothing open", judged.reason)])
        _in_order(house, given.role, state)
        made = _signature(person, house, given, now, state, points)
        SignatureRow.keep(UUID(house.id), made)
        audit(person, UUID(house.id), "record signed", f"{made.role}: {made.name}")
        signed = load_house(job_id)
        current = {one.role for one in signed.signatures if not one.from_file and one.of == state}
        if current == set(SIGN_ROLES):
            version = freeze(signed, shown_name(person)[:120], now)
            audit(person, UUID(house.id), "record frozen", f"{version.number}: {version.digest}")


def open_of(house: Job, now: datetime) -> tuple[OpenPoint, ...]:
    """Everything open of a house that its record is signed with, or not at all."""
    return to_sign(
        tuple(point for one in views(house) for point in assess(one, at=now).open_points)
    )


def _in_order(house: Job, role: SignRole, state: str) -> None:
    """The customer accepts what both others have signed, and whoever answers what was done."""
    given = {one.role for one in house.signatures if not one.from_file and one.of == state}
    for earlier in SIGN_ROLES[: SIGN_ROLES.index(role)]:
        if earlier not in given:
            said = say("sign_said", "first", who=say("signers", earlier))
            raise Refused([problem("$.role", role, earlier, said)])


def _signature(
    person: User, house: Job, given: Given, now: datetime, state: str,
    points: tuple[OpenPoint, ...],
) -> Signature:  # fmt: skip
    name, licence, until = given.name.strip(), "", None
    if given.role == "answers":
        # Whoever answers is who is signed in: a licence is never typed.
        name, licence, until = _licensed(person)
    crew = tuple(one.name for one in house.arrival.crew if one.present)
    if given.form != "absent":
        judged = signature_counts(
            role=given.role, name=name, on=now.date(), crew=crew, licence=licence,
            licence_until=until,
        )  # fmt: skip
        if judged.verdict != "clear":
            raise Refused([problem("$.name", name, "somebody who may sign", judged.reason)])
    watches = {watch_key(one) for one in points if one.judgement.verdict == "watch"}
    left = watches - set(given.took_on)
    if given.role == "answers" and left:
        said = say("sign_said", "not_taken", count=str(len(left)), first=sorted(left)[0])
        raise Refused([problem("$.took_on", len(given.took_on), f"all {len(watches)}", said)])
    own = next((one.licence for one in house.arrival.crew if one.name == name), "")
    return Signature(
        id=str(uuid4()),
        at=now,
        by=shown_name(person)[:60],
        role=given.role,
        name=(name or house.leave.customer or say("signers", "accepts"))[:60],
        licence=licence or own,
        licence_until=until,
        form=given.form,
        drawn=given.drawn,
        of=state,
        took_on=tuple(sorted(watches)) if given.role == "answers" else (),
        note=given.note.strip(),
    )


def _licensed(person: User) -> tuple[str, str, date | None]:
    held = Licence.objects.filter(person=person).first()
    number, until = (held.number, held.ends_on) if held is not None else ("", None)
    return shown_name(person), number, until
