"""Crews and who belongs to them: founded, invited, changed, reset, left; each in the audit."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from typing import get_args

from django.contrib.auth import get_user_model, password_validation
from django.contrib.auth.models import User
from django.core.exceptions import ValidationError
from django.db import transaction

from core.base.errors import Problem, Refused, problem
from core.base.signs import unwritten
from server.people.audit import audit, audit_stranger, shown_name
from server.people.factors import forget_factors
from server.people.models import Crew, Licence, Member, Ticket
from server.people.policy import Role, who_may
from server.people.sign_in import end_sessions
from server.platform.link_secret import digest_of, new_secret

INVITED_FOR, RESET_FOR = timedelta(days=7), timedelta(days=1)
MOST_LICENCE_CHARS, MOST_USERNAME_CHARS, MOST_NAME_CHARS = 60, 150, 60
ROLE_NAMES = " · ".join(get_args(Role))


def found_crew(name: str) -> Crew:
    """A crew of that name, founded where there is none."""
    _text("$.crew", name, MOST_NAME_CHARS)
    return Crew.objects.get_or_create(name=name.strip())[0]


def person_named(username: str) -> User:
    """The person who signs in by that name. Raises Refused."""
    person = get_user_model().objects.filter(username=username).first()
    if not isinstance(person, User):
        raise Refused([problem("$.name", username, "a person who may sign in")])
    return person


def add_person(crew: Crew, username: str, role: str, password: str | None, name: str = "") -> User:
    """A new person in a crew. Raises Refused: a name that is taken, a weak password."""
    _role(role)
    _text("$.username", username, MOST_USERNAME_CHARS)
    users = get_user_model().objects
    if users.filter(username__iexact=username.strip()).exists():
        said = "Somebody signs in by this name already. Take another one."
        raise Refused([problem("$.username", username, "a name that nobody has", said)])
    person = User(username=username.strip())
    _named(person, name)
    _with_password(person, password)
    with transaction.atomic():
        person.save()
        Member.objects.create(person=person, crew=crew, role=role)
        audit(person, None, "person added", f"{role} of {crew.name}")
    return person


def invite(by: User, crew: Crew, role: str, name: str) -> str:
    """A link that lets somebody into a crew once, for a week: its secret."""
    _role(role)
    _text("$.name", name, MOST_NAME_CHARS)
    with transaction.atomic():
        secret = _ticket(by, crew, role, name.strip(), None, INVITED_FOR)
        audit(by, None, "invited", f"{name.strip()} as {role}")
    return secret


def reset(by: User, member: Member) -> str:
    """A link by which somebody of the crew sets a new password, for a day: its secret.

    It takes their second factors off: who lost the phone gets in again.
    """
    name = shown_name(member.person)
    with transaction.atomic():
        secret = _ticket(by, member.crew, member.role, name, member.person, RESET_FOR)
        audit(by, None, "password reset begun", f"{name}")
    return secret


def withdraw(by: User, crew: Crew, number: int) -> None:
    """A link works no more."""
    with transaction.atomic():
        found = Ticket.objects.filter(crew=crew, used_at=None, pk=number).first()
        if found is None:
            raise Refused([problem("$.number", number, "an invitation that stands open")])
        found.used_at = datetime.now(UTC)
        found.save()
        audit(by, None, "invitation withdrawn", found.name)


def ticket_of(secret: str) -> Ticket:
    """The open ticket of a link. Raises Refused for one that is used, withdrawn or too old."""
    found = Ticket.objects.filter(digest=digest_of(secret)).select_related("crew", "resets").first()
    if found is None or found.used_at is not None or found.ends_at < datetime.now(UTC):
        said = "This link was used, withdrawn, or is too old. Ask for a new one."
        raise Refused([problem("$.ticket", "…", "a link that still holds", said)])
    return found


def join(secret: str, username: str, name: str, password: str) -> User:
    """Use a link: a new person comes into the crew, or one of it gets a new password."""
    with transaction.atomic():
        ticket = ticket_of(secret)
        if ticket.resets is not None:
            person = ticket.resets
            _with_password(person, password)
            person.save()
            forget_factors(person)
            end_sessions(person)
            audit(person, None, "password reset", "second factors taken off")
        else:
            person = add_person(ticket.crew, username, ticket.role, password, name or ticket.name)
        ticket.used_at = datetime.now(UTC)
        ticket.save()
    return person


@dataclass(frozen=True, kw_only=True)
class MemberChange:
    """What changes of a member; None: stays as it is. licence: "" takes it away."""

    role: str | None = None
    name: str | None = None
    licence: str | None = None
    licence_ends_on: date | None = None


def change_member(by: User, member: Member, change: MemberChange) -> None:
    """Another role, name or licence. Raises Refused; a crew always keeps an owner."""
    said = []
    with transaction.atomic():
        if change.role is not None and change.role != member.role:
            _role(change.role)
            _not_last_owner(member, change.role)
            said.append(f"role {member.role} → {change.role}")
            member.role = change.role
            member.save()
        if change.name is not None:
            said.append(f"name {shown_name(member.person)} → {change.name.strip()}")
            _named(member.person, change.name)
            member.person.save()
        if change.licence is not None:
            said.append(_licensed(member.person, change.licence, change.licence_ends_on))
        audit(by, None, "member changed", f"{member.person.get_username()}: {', '.join(said)}")


def leaves(by: User, member: Member) -> None:
    """A person leaves: they sign in no more; everything that they did stays, with their name."""
    with transaction.atomic():
        _not_last_owner(member, "")
        member.left_at = datetime.now(UTC)
        member.save()
        member.person.is_active = False
        member.person.save()
        end_sessions(member.person)
        audit(by, None, "member left", shown_name(member.person))


def member_numbered(crew: Crew, number: int) -> Member:
    """A member of a crew. Raises Refused."""
    found = Member.objects.filter(crew=crew, pk=number, left_at=None).first()
    if found is None:
        raise Refused([problem("$.number", number, "a member of this crew")])
    return found


def enter_licence(name: str, number: str, ends_on: date | None = None) -> None:
    """Enter or renew a person's licence. Raises Refused for an unknown name or no number."""
    person = person_named(name)
    if not number.strip():
        raise Refused([problem("$.number", number, f"1 to {MOST_LICENCE_CHARS} characters")])
    with transaction.atomic():
        audit_stranger("who runs this", None, "licence", _licensed(person, number, ends_on))


def change_password(person: User, old: str, new: str) -> None:
    """Another password, by who knows the old one. Raises Refused."""
    if not person.check_password(old):
        said = "The old password is another one."
        raise Refused([problem("$.old", "******", "the password that holds now", said)])
    _with_password(person, new)
    with transaction.atomic():
        person.save()
        audit(person, None, "password changed")


def _licensed(person: User, number: str, ends_on: date | None) -> str:
    if not number.strip():
        Licence.objects.filter(person=person).delete()
        return f"{shown_name(person)}: licence taken away"
    _text("$.licence", number, MOST_LICENCE_CHARS)
    Licence.objects.update_or_create(
        person=person, defaults={"number": number.strip(), "ends_on": ends_on}
    )
    until = f" until {ends_on}" if ends_on else ""
    return f"{shown_name(person)}: licence {number.strip()}{until}"


def _not_last_owner(member: Member, role: str) -> None:
    others = [one for one in who_may(member.crew, "people") if one.pk != member.pk]
    if role != "owner" and member.role == "owner" and not others:
        said = "A crew keeps an owner: make somebody else one first."
        raise Refused([problem("$.role", role or "left", "another owner first", said)])


def _ticket(
    by: User, crew: Crew, role: str, name: str, resets: User | None, holds: timedelta
) -> str:
    secret = new_secret()
    Ticket.objects.create(
        digest=digest_of(secret),
        crew=crew,
        role=role,
        name=name,
        resets=resets,
        made_by=shown_name(by),
        ends_at=datetime.now(UTC) + holds,
    )
    return secret


def _with_password(person: User, password: str | None) -> None:
    if password is None:
        person.set_unusable_password()
        return
    try:
        password_validation.validate_password(password, person)
    except ValidationError as error:
        said = " ".join(error.messages)
        raise Refused([problem("$.password", "******", "a longer or rarer one", said)]) from None
    person.set_password(password)


def _named(person: User, name: str) -> None:
    if name.strip():
        _text("$.name", name, MOST_NAME_CHARS)
    first, _, last = name.strip().partition(" ")
    person.first_name, person.last_name = first, last


def _role(role: str) -> None:
    if role not in get_args(Role):
        raise Refused([problem("$.role", role, ROLE_NAMES)])


def _text(path: str, text: str, most: int) -> None:
    wrong: Problem | None = None
    signs = unwritten(text)
    if signs is not None:
        wrong = problem(path, ascii(text)[:60], "signs that can be read", signs)
    elif not 1 <= len(text.strip()) <= most:
        wrong = problem(path, text[:60], f"1 to {most} characters")
    if wrong is not None:
        raise Refused([wrong])
