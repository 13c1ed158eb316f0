"""The questions that begin a job, in their order, and what is said of each answer at once.

A question that was not answered is open: it is never answered for the user. What a job cannot be
judged without keeps it from being begun, and is named.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from datetime import date
from string import ascii_uppercase
from typing import Annotated, Any, Literal

from core.assess import assess
from core.assessment.whole import Assessment
from core.base.errors import Problem, Refused
from core.base.form import Checked
from core.base.judgement import Verdict
from core.base.messages import figure, say
from core.base.quantity import Items
from core.begin.template import templated
from core.bench import NOTHING_READ, BenchTyped
from core.edits.edit import Catalogue, Entered
from core.edits.new_job import NewJob, begun, site_of, strung, ways_to_string
from core.edits.roof_text import RoofPart, roof_parts
from core.equipment.catalogue import Kind
from core.equipment.inverter import Inverter
from core.equipment.micro import Micro, Trunk
from core.equipment.module import Module
from core.equipment.sheet import Sheet
from core.figures.rule_packs import known_packs, pack, pack_in
from core.job.job import Job
from core.planning.dc.arrangements import ArrangedString

QuestionId = Literal[
    "name", "where", "air", "rules", "module", "way", "inverter", "micro", "trunk", "roof",
    "strung", "others",
]  # fmt: skip
Way = Literal["", "wall", "roof"]
State = Literal["open", "answered", "skipped", "wrong"]
# Without these there is nothing that could be judged; the rest of a job may stay open.
MUST: frozenset[QuestionId] = frozenset(
    ("name", "where", "air", "rules", "module", "way", "inverter", "micro", "trunk")
)
# What is asked of a house that is planned as an earlier one.
OF_THE_HOUSE: tuple[QuestionId, ...] = ("name", "where", "air")
DEVICES: dict[Way, tuple[QuestionId, ...]] = {
    "": (),
    "wall": ("inverter",),
    "roof": ("micro", "trunk"),
}
SHOWN_WAYS = 3
# Any identity will do for a job that is only looked at.
LOOKED_AT = "00000000-0000-4000-8000-00000000be61"


@dataclass(frozen=True, kw_only=True)
class Answers(Checked):
    """What was answered so far, as typed or picked.

    way: on a wall or on the roof. country: by two letters, of the place. like: an earlier job by
    its identity, whose plan is taken over. read: what was read on the bench before. skipped:
    questions that were put aside.
    """

    typed: NewJob
    way: Way = ""
    country: Entered = ""
    like: Entered = ""
    read: BenchTyped = NOTHING_READ
    skipped: Annotated[tuple[Entered, ...], Items("questions put aside", 0, 20)] = ()


@dataclass(frozen=True, kw_only=True)
class Question:
    """One question: what it asks, what it is for, how it stands, and the answer in words.

    must: no job can be begun without it. problem: what is wrong with the answer.
    """

    id: QuestionId
    asks: str
    what_for: str
    state: State
    said: str
    problem: str
    must: bool


@dataclass(frozen=True, kw_only=True)
class Line:
    """Something that can be said of the answers already: a verdict and its sentence."""

    verdict: Verdict
    text: str


@dataclass(frozen=True, kw_only=True)
class WayToString:
    """One way to put the modules into strings: its number, what it is, and why it stands there."""

    number: int
    text: str
    why: str


@dataclass(frozen=True, kw_only=True)
class Beginning:
    """How the beginning of a job stands.

    now: the question to answer next, None when none is open. missing: what keeps the job from
    being begun, in words. rule_pack: the one that goes with the country, empty where none does.
    lines: what the answers say together. ways: how the modules go into strings. blocks: why they
    do not.
    """

    questions: tuple[Question, ...]
    now: QuestionId | None
    missing: tuple[str, ...]
    rule_pack: str
    lines: tuple[Line, ...]
    ways: tuple[WayToString, ...]
    blocks: tuple[str, ...]


def asked(
    answers: Answers, catalogue: Catalogue, *, today: date, like: Job | None = None
) -> Beginning:
    """Every question of the beginning, how it stands, and what the answers say together.

    like: the earlier job whose plan is taken over; then only what is of the house is asked.
    """
    usual = pack_in(answers.country)
    given = completed(answers)
    order = OF_THE_HOUSE if like is not None else _order(answers)
    questions = tuple(_question(one, answers, given, catalogue) for one in order)
    missing = tuple(
        say("begin_missing", one.id) for one in questions if one.must and one.state != "answered"
    )
    job = None if missing else _job(given, catalogue, today, like)
    if isinstance(job, Refused):
        questions, missing = _objected(questions, job.problems)
        job = None
    ways, blocks = ((), ()) if like is not None else _ways(job, given)
    questions = tuple(_with_ways(questions, ways, given))
    shown = _shown(job, given, ways)
    return Beginning(
        questions=questions,
        now=next((one.id for one in questions if one.state in ("open", "wrong")), None),
        missing=missing,
        rule_pack=usual.id if usual else "",
        lines=tuple(_lines(assess(shown))) if shown is not None else (),
        ways=ways,
        blocks=blocks,
    )


def completed(answers: Answers) -> NewJob:
    """What a job is begun from: what was answered, with the rule pack that goes with the place."""
    typed, usual = answers.typed, pack_in(answers.country)
    return typed if typed.rule_pack or usual is None else replace(typed, rule_pack=usual.id)


def _order(answers: Answers) -> tuple[QuestionId, ...]:
    """The questions that are asked, by the way that was chosen."""
    device = DEVICES[answers.way]
    strings: tuple[QuestionId, ...] = ("strung",) if answers.way == "wall" else ()
    return ("name", "where", "air", "rules", "module", "way", *device, "roof", *strings, "others")


def _question(
    question: QuestionId, answers: Answers, given: NewJob, catalogue: Catalogue
) -> Question:
    wrong = ""
    try:
        said = SAID[question](answers, given, catalogue)
    except Refused as refused:
        said, wrong = "", " ".join(one.message for one in refused.problems)
    state: State = "wrong" if wrong else "answered" if said else "open"
    if state == "open" and question in answers.skipped:
        state = "skipped"
    return Question(
        id=question,
        asks=say("begin_asks", question),
        what_for=say("begin_for", question),
        state=state,
        said=said,
        problem=wrong,
        must=question in MUST,
    )


def _name(answers: Answers, given: NewJob, catalogue: Catalogue) -> str:
    return given.name.strip()


def _where(answers: Answers, given: NewJob, catalogue: Catalogue) -> str:
    if not given.latitude_deg.strip() and not given.longitude_deg.strip():
        return ""
    site = site_of(_but(given, KNOWN_AIR))
    north, east = figure(site.latitude_deg, "°", 3), figure(site.longitude_deg, "°", 3)
    return say("begin", "where", place=site.place, north=north, east=east, zone=site.timezone)


def _air(answers: Answers, given: NewJob, catalogue: Catalogue) -> str:
    if not any(one.strip() for one in (given.t_air_min_c, given.t_air_max_c)):
        return ""
    site = site_of(_but(given, KNOWN_PLACE))
    cold, hot = figure(site.t_air_min_c, "°C"), figure(site.t_air_max_c, "°C")
    return say("begin", "air", cold=cold, hot=hot, source=site.climate_source)


def _rules(answers: Answers, given: NewJob, catalogue: Catalogue) -> str:
    if not given.rule_pack:
        return ""
    own = catalogue.own_pack(given.rule_pack)
    if own is not None:
        return own.name
    if given.rule_pack not in known_packs():
        return ""
    by_place = not answers.typed.rule_pack
    name = pack(given.rule_pack).name
    return say("begin", "by_place", name=name) if by_place else name


def _sheet(kind: Kind, field: str, wanted: type[Sheet]) -> Callable[..., str]:
    def said(answers: Answers, given: NewJob, catalogue: Catalogue) -> str:
        sheet_id = getattr(given, field)
        return catalogue.one(kind, sheet_id, wanted, f"$.{field}").label if sheet_id else ""

    return said


def _way(answers: Answers, given: NewJob, catalogue: Catalogue) -> str:
    return say("begin_way", answers.way) if answers.way else ""


def _roof(answers: Answers, given: NewJob, catalogue: Catalogue) -> str:
    if not given.roof.strip():
        return ""
    parts = roof_parts(given.roof)
    if answers.way == "roof":
        _drawn(parts, given.roof)
    each = ", ".join(f"{one.name} {one.modules}" for one in parts)
    total = sum(one.modules for one in parts)
    return each if len(parts) == 1 else say("begin", "roof", each=each, total=str(total))


def _drawn(parts: tuple[RoofPart, ...], text: str) -> None:
    """Refuses planes of which only a number is known: units hang under modules that are drawn."""
    loose = [one.name for one in parts if not one.rows]
    if loose:
        said = say("begin", "rows_needed", planes=", ".join(loose))
        raise Refused([Problem(path="$.roof", value=text, allowed="2 x 7", message=said)])


def _strung(answers: Answers, given: NewJob, catalogue: Catalogue) -> str:
    # Known only beside the ways that there are.
    return ""


def _others(answers: Answers, given: NewJob, catalogue: Catalogue) -> str:
    return say("begin", "nothing_else") if given.nothing_else else ""


SAID: dict[QuestionId, Callable[[Answers, NewJob, Catalogue], str]] = {
    "name": _name,
    "where": _where,
    "air": _air,
    "rules": _rules,
    "module": _sheet("modules", "module", Module),
    "way": _way,
    "inverter": _sheet("inverters", "inverter", Inverter),
    "micro": _sheet("micros", "micro", Micro),
    "trunk": _sheet("trunks", "trunk", Trunk),
    "roof": _roof,
    "strung": _strung,
    "others": _others,
}


def _but(given: NewJob, known: dict[str, Any]) -> NewJob:
    return replace(given, **known)


# What is no part of a question while its own answer is read.
KNOWN_AIR = {"t_air_min_c": "0", "t_air_max_c": "30", "climate_source": "-"}
KNOWN_PLACE = {"place": "-", "latitude_deg": "0", "longitude_deg": "0", "timezone": "UTC"}


def _job(given: NewJob, catalogue: Catalogue, today: date, like: Job | None) -> Job | Refused:
    """The job that the answers make, or why they make none together."""
    roof = given.roof if _reads(given.roof) else ""
    try:
        if like is not None:
            return templated(like, given, job_id=LOOKED_AT, today=today)
        return begun(replace(given, roof=roof, strung=""), catalogue, job_id=LOOKED_AT, today=today)
    except Refused as refused:
        return refused


def _reads(roof: str) -> bool:
    try:
        roof_parts(roof)
    except Refused:
        return False
    return True


def _objected(
    questions: tuple[Question, ...], problems: tuple[Problem, ...]
) -> tuple[tuple[Question, ...], tuple[str, ...]]:
    """The questions with what the job itself objects to, at the question that it comes from."""
    said = " ".join(one.message for one in problems)
    at = next((AT[key] for one in problems for key in AT if one.path.startswith(key)), "rules")
    shown = tuple(
        replace(one, state="wrong", problem=said) if one.id == at else one for one in questions
    )
    return shown, (say("begin_missing", at),)


# Where a whole job's objection belongs.
AT: dict[str, QuestionId] = {
    "$.site": "where",
    "$.module": "module",
    "$.inverter": "inverter",
    "$.micro.trunk": "trunk",
    "$.micro": "micro",
    "$.planes": "roof",
    "$.day": "name",
    "$.name": "name",
}


def _ways(job: Job | None, given: NewJob) -> tuple[tuple[WayToString, ...], tuple[str, ...]]:
    """How the modules go into strings, the best first; or why they do not."""
    if job is None or job.inverter is None or not _reads(given.roof):
        return (), ()
    found = ways_to_string(job, roof_parts(given.roof))
    ways = tuple(
        WayToString(number=number, text=_in_words(one.strings), why=one.why)
        for number, one in enumerate(found.ranked[:SHOWN_WAYS], start=1)
    )
    return ways, found.blocks


def _in_words(strings: tuple[ArrangedString, ...]) -> str:
    """Strings as they are spoken of: A 8 on Front, tracker 1."""
    return "; ".join(
        say(
            "begin",
            "one_string",
            name=name,
            count=str(one.modules_in_series),
            plane=one.plane,
            tracker=str(one.tracker),
        )
        for name, one in zip(ascii_uppercase, strings, strict=False)
    )


def _with_ways(
    questions: tuple[Question, ...], ways: tuple[WayToString, ...], given: NewJob
) -> Iterator[Question]:
    """The questions; that of the strings by the way that was chosen, none where there is none."""
    chosen = next((one for one in ways if str(one.number) == given.strung.strip()), None)
    for one in questions:
        if one.id != "strung":
            yield one
        elif chosen is not None:
            yield replace(one, state="answered", said=chosen.text)
        elif ways:
            yield one


def _shown(job: Job | None, given: NewJob, ways: tuple[WayToString, ...]) -> Job | None:
    """The job with the strings that were chosen, or with the best ones to look at.

    Those are looked at only: the job is begun with them once they are taken.
    """
    if job is None or not ways:
        return job
    numbers = [str(one.number) for one in ways]
    chosen = given.strung if given.strung in numbers else numbers[0]
    return strung(job, roof_parts(given.roof), chosen)


def _lines(said: Assessment) -> Iterator[Line]:
    """What a job of which nothing was read yet says already: what stops, and each string."""
    for point in said.open_points:
        if point.judgement.verdict in ("stop", "watch") and not point.part.startswith("string/"):
            yield Line(verdict=point.judgement.verdict, text=point.judgement.reason)
    for one in said.string.strings if said.string else ():
        yield Line(verdict=one.verdict, text=say("begin", "string", name=one.name, line=one.line))
