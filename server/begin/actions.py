"""Keeping answers, and making a job of them."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from uuid import UUID, uuid4

from django.contrib.auth.models import User
from django.db import transaction
from django.http import Http404

from core.base.errors import Refused, problem
from core.base.form import read, write
from core.base.messages import say
from core.begin.questions import Answers, Beginning, asked, completed
from core.begin.template import templated
from core.bench import bench_reads
from core.edits.new_job import NewJob
from core.job.job import Job
from server.begin.models import BegunRow
from server.begin.schemas import BegunLine, BegunView
from server.catalogue.stored import shelf_of
from server.jobs import actions as jobs
from server.jobs.models import JobRow
from server.jobs.stored import load_house
from server.people.audit import shown_name
from server.people.policy import crew_of, of_crew

MOST_BEGUN = 60
NOTHING_ANSWERED = Answers(typed=NewJob(name=""))


def begun_lines(person: User) -> list[BegunLine]:
    """What the crew is beginning, the latest first."""
    rows = of_crew(person, BegunRow.objects.select_related("by"))[:MOST_BEGUN]
    return [_line(person, row) for row in rows]


def _line(person: User, row: BegunRow) -> BegunLine:
    answers = _standing(person, row)
    return BegunLine(
        id=row.id,
        name=answers.typed.name or say("begin", "unnamed"),
        place=answers.typed.place,
        by=shown_name(row.by),
        at=row.at,
        open=_asked(person, answers).missing,
    )


def view(person: User, begun_id: UUID) -> BegunView:
    """What was answered so far, and how it stands; of what was never answered, every question."""
    is_new = not BegunRow.objects.filter(id=begun_id).exists()
    answers = NOTHING_ANSWERED if is_new else _standing(person, _row(person, begun_id))
    return BegunView(id=begun_id, answers=answers, asked=_asked(person, answers))


def answer(person: User, begun_id: UUID, answers: Answers) -> BegunView:
    """Keep what was answered, under an identity that the device made. Raises Refused."""
    found = BegunRow.objects.filter(id=begun_id).first()
    if found is not None:
        _row(person, begun_id)
    if found is None and of_crew(person, BegunRow.objects.all()).count() >= MOST_BEGUN:
        allowed = say("begin", "most", most=str(MOST_BEGUN))
        raise Refused([problem("$.id", f"{MOST_BEGUN + 1}", allowed, allowed)])
    judged = _asked(person, answers)
    BegunRow.objects.update_or_create(
        id=begun_id,
        defaults={"answers": write(answers)},
        create_defaults={"answers": write(answers), "crew": crew_of(person), "by": person},
    )
    return BegunView(id=begun_id, answers=answers, asked=judged)


def put_away(person: User, begun_id: UUID) -> None:
    """Begin it no more: what was answered is gone."""
    _row(person, begun_id).delete()


def make(person: User, begun_id: UUID) -> UUID:
    """The job that the answers make. Raises Refused with everything that is missing or wrong."""
    row = _row(person, begun_id)
    answers = _standing(person, row)
    if missing := _asked(person, answers).missing:
        said = say("begin", "missing", what=", ".join(missing))
        raise Refused([problem("$", "open", said, said)])
    like, new = _like(person, answers), completed(answers)
    with transaction.atomic():
        if like is None:
            made = jobs.create(person, new, bench_reads(answers.read))
        else:
            job = templated(like, new, job_id=str(uuid4()), today=date.today())
            made = jobs.keep(person, job, f"job begun as {like.name}")
        row.delete()
    return made


def _standing(person: User, row: BegunRow) -> Answers:
    """What was answered, as it holds now: of an earlier job that was erased since, nothing does."""
    answers = read(Answers, row.answers)
    try:
        _like(person, answers)
    except Refused:
        return replace(answers, like="")
    return answers


def _asked(person: User, answers: Answers) -> Beginning:
    like = _like(person, answers)
    return asked(answers, shelf_of(person), today=date.today(), like=like)


def _like(person: User, answers: Answers) -> Job | None:
    """The earlier job whose plan is taken over. Raises Refused: it is none of the crew's."""
    if not answers.like:
        return None
    try:
        own = of_crew(person, JobRow.objects.filter(house=None, id=UUID(answers.like)))
    except ValueError:
        own = JobRow.objects.none()
    row = own.first()
    if row is None:
        raise Refused([problem("$.like", answers.like, say("begin", "like"))])
    return load_house(row.id)


def _row(person: User, begun_id: UUID) -> BegunRow:
    row = of_crew(person, BegunRow.objects.filter(id=begun_id)).first()
    if row is None:
        raise Http404
    return row
