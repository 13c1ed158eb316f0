"""What is sent and answered about people: sessions, accounts, members, invitations, the audit."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Any
from uuid import UUID

from ninja import Field, Schema

from server.people.policy import Doing

Short = Annotated[str, Field(max_length=150)]
Secret = Annotated[str, Field(max_length=500)]


class SignIn(Schema):
    """A name and its password."""

    username: Short
    password: Secret


class CodeIn(Schema):
    """A code of the authenticator."""

    code: Annotated[str, Field(max_length=12)]


class PasskeyAnswer(Schema):
    """What the browser made of what it was asked, as the standard has it."""

    answer: dict[str, Any]
    name: Annotated[str, Field(max_length=60)] = ""


class Asked(Schema):
    """What the browser is asked for a passkey, as the standard has it."""

    options: dict[str, Any]


class Session(Schema):
    """Who is signed in, in which crew and role, with which licence, and what they may do.

    ways: what is still asked for after the password; empty when none is, or nobody began.
    only_with_server: kinds of readings that are kept nowhere but here, as another's lock may hold.
    core: the version that a device may judge with by itself; empty where none is packed for it.
    """

    name: str | None
    licence: str
    demo: bool
    crew: str = ""
    role: str = ""
    may: list[Doing] = []
    learner: bool = False
    ways: list[str] = []
    only_with_server: list[str] = []
    core: str = ""


class PasswordIn(Schema):
    """The old password and the new one."""

    old: Secret
    new: Secret


class SessionLine(Schema):
    """One sign-in that holds. here: the one that asks."""

    number: int
    browser: str
    begun_at: datetime
    seen_at: datetime
    here: bool


class PasskeyLine(Schema):
    """One passkey."""

    number: int
    name: str
    made_at: datetime
    used_at: datetime | None


class Account(Schema):
    """One's own account: how one signs in, and where one is signed in."""

    username: str
    name: str
    crew: str
    role: str
    licence: str
    licence_ends_on: date | None
    has_code: bool
    passkeys: list[PasskeyLine]
    sessions: list[SessionLine]


class CodeBegun(Schema):
    """The secret of a new authenticator, to scan or to type."""

    address: str
    picture: str


class MemberLine(Schema):
    """One person of a crew, gone ones too."""

    number: int
    username: str
    name: str
    role: str
    licence: str
    licence_ends_on: date | None
    joined_at: datetime
    left_at: datetime | None
    has_second_factor: bool


class TicketLine(Schema):
    """One link that stands open."""

    number: int
    name: str
    role: str
    resets: bool
    made_by: str
    ends_at: datetime


class People(Schema):
    """A crew and who belongs to it."""

    crew: str
    members: list[MemberLine]
    invitations: list[TicketLine]


class InviteIn(Schema):
    """Whom to invite as what."""

    name: Short
    role: Annotated[str, Field(max_length=20)]


class Link(Schema):
    """The path of a link that is shown once."""

    path: str


class MemberIn(Schema):
    """What changes of a member; what is left out stays."""

    role: Annotated[str, Field(max_length=20)] | None = None
    name: Short | None = None
    licence: Annotated[str, Field(max_length=60)] | None = None
    licence_ends_on: date | None = None


class TicketView(Schema):
    """What a link is for."""

    crew: str
    role: str
    name: str
    username: str
    resets: bool


class JoinIn(Schema):
    """Who comes in by a link."""

    username: Short = ""
    name: Short = ""
    password: Secret


class AuditRow(Schema):
    """One line of the audit."""

    number: int
    at: datetime
    by: str
    what: str
    detail: str
    job_id: UUID | None


class PersonLine(Schema):
    """One person, by number and name."""

    number: int
    name: str


class AuditView(Schema):
    """A page of the audit, the latest first. more: whether there are older ones."""

    lines: list[AuditRow]
    people: list[PersonLine]
    more: bool
