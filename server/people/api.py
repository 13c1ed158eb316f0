"""Endpoints of signing in, one's own account, one's crew, and the audit."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from django.conf import settings
from django.contrib.auth import update_session_auth_hash
from django.contrib.auth.models import User
from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import csrf_protect
from ninja import Query, Router
from ninja.decorators import decorate_view

from server.hand.views import core_for_devices
from server.people import factors, membership, sign_in
from server.people.audit import audit, audit_csv, lines_of, shown_name
from server.people.current import person_of, who_asks
from server.people.models import AuditLine, Crew, Member, Passkey, Ticket
from server.people.policy import SWITCHING, doings_of, is_learner, licence_of, member_of
from server.people.schemas import (
    Account,
    Asked,
    AuditRow,
    AuditView,
    CodeBegun,
    CodeIn,
    InviteIn,
    JoinIn,
    Link,
    MemberIn,
    MemberLine,
    PasskeyAnswer,
    PasskeyLine,
    PasswordIn,
    People,
    PersonLine,
    Session,
    SessionLine,
    SignIn,
    TicketLine,
    TicketView,
)
from server.platform.http import download

router = Router(tags=["people"])
LINES_A_PAGE = 100
Secret = Annotated[str, Query(max_length=100)]


def _session(request: HttpRequest, ways: tuple[str, ...] = ()) -> Session:
    member = member_of(request.user)
    if member is None:
        return Session(name=None, licence="", demo=settings.DEMO, ways=list(ways))
    person = member.person
    sign_in.seen(request)
    return Session(
        name=shown_name(person),
        licence=licence_of(person),
        demo=settings.DEMO,
        crew=member.crew.name,
        role=member.role,
        may=list(doings_of(person)),
        learner=is_learner(person),
        only_with_server=sorted(SWITCHING),
        core=core_for_devices(),
    )


@router.get("/session", auth=None, response=Session, operation_id="get_session")
def get_session(request: HttpRequest) -> Session:
    return _session(request)


@router.post("/session", auth=None, response=Session, operation_id="sign_in")
@decorate_view(csrf_protect)
def post_session(request: HttpRequest, body: SignIn) -> Session:
    person = sign_in.sign_in(request, body.username, body.password)
    if person is None:
        return _session(request, factors.ways_of(sign_in.half_signed_in(request)))
    return _session(request)


@router.post("/session/code", auth=None, response=Session, operation_id="sign_in_code")
@decorate_view(csrf_protect)
def post_code(request: HttpRequest, body: CodeIn) -> Session:
    sign_in.with_code(request, body.code)
    return _session(request)


@router.post(
    "/session/passkey/options",
    auth=None,
    response=Asked,
    operation_id="sign_in_options",
)
@decorate_view(csrf_protect)
def passkey_options(request: HttpRequest) -> Asked:
    person = sign_in.half_signed_in(request) if sign_in.HALF in request.session else None
    return Asked(options=factors.sign_in_options(request, person))


@router.post("/session/passkey", auth=None, response=Session, operation_id="sign_in_passkey")
@decorate_view(csrf_protect)
def post_passkey(request: HttpRequest, body: PasskeyAnswer) -> Session:
    sign_in.with_passkey(request, body.answer)
    return _session(request)


@router.post("/session/demo", auth=None, response=Session, operation_id="sign_in_demo")
@decorate_view(csrf_protect)
def post_demo(request: HttpRequest) -> Session:
    sign_in.sign_in_demo(request)
    return _session(request)


@router.delete("/session", response=Session, operation_id="sign_out")
def delete_session(request: HttpRequest) -> Session:
    sign_in.sign_out(request)
    return _session(request)


@router.get("/account", response=Account, operation_id="get_account")
def get_account(request: HttpRequest) -> Account:
    member = who_asks(request)
    person = member.person
    held = getattr(person, "licence", None)
    return Account(
        username=person.get_username(),
        name=shown_name(person),
        crew=member.crew.name,
        role=member.role,
        licence=held.number if held else "",
        licence_ends_on=held.ends_on if held else None,
        has_code=factors.CODE in factors.ways_of(person),
        passkeys=[
            PasskeyLine(number=one.pk, name=one.name, made_at=one.made_at, used_at=one.used_at)
            for one in Passkey.objects.filter(person=person).order_by("id")
        ],
        sessions=[
            SessionLine(
                number=one.pk,
                browser=one.browser,
                begun_at=one.begun_at,
                seen_at=one.seen_at,
                here=one.session_key == request.session.session_key,
            )
            for one in sign_in.sessions_of(person)
        ],
    )


@router.post("/account/password", response=Account, operation_id="change_password")
def post_password(request: HttpRequest, body: PasswordIn) -> Account:
    person = person_of(request)
    membership.change_password(person, body.old, body.new)
    update_session_auth_hash(request, person)
    sign_in.renewed(request, person)
    return get_account(request)


@router.delete("/account/sessions/{int:number}", response=Account, operation_id="end_session")
def delete_one_session(request: HttpRequest, number: int) -> Account:
    sign_in.end_sessions(person_of(request), number=number)
    return get_account(request)


@router.post("/account/code", response=CodeBegun, operation_id="begin_code")
def begin_code(request: HttpRequest) -> CodeBegun:
    address, picture = factors.begin_code(person_of(request))
    return CodeBegun(address=address, picture=picture)


@router.post("/account/code/confirm", response=Account, operation_id="confirm_code")
def confirm_code(request: HttpRequest, body: CodeIn) -> Account:
    factors.confirm_code(person_of(request), body.code)
    return _noted(request, "second factor", "authenticator set up")


@router.delete("/account/code", response=Account, operation_id="remove_code")
def remove_code(request: HttpRequest) -> Account:
    factors.remove_code(person_of(request))
    return _noted(request, "second factor", "authenticator taken off")


@router.post("/account/passkeys/options", response=Asked, operation_id="begin_passkey")
def begin_passkey(request: HttpRequest) -> Asked:
    return Asked(options=factors.passkey_options(request, person_of(request)))


@router.post("/account/passkeys", response=Account, operation_id="keep_passkey")
def keep_passkey(request: HttpRequest, body: PasskeyAnswer) -> Account:
    factors.keep_passkey(request, person_of(request), body.name, body.answer)
    return _noted(request, "second factor", "passkey made")


@router.delete(
    "/account/passkeys/{int:number}",
    response=Account,
    operation_id="remove_passkey",
)
def remove_passkey(request: HttpRequest, number: int) -> Account:
    Passkey.objects.filter(person=person_of(request), pk=number).delete()
    return _noted(request, "second factor", "passkey taken off")


def _noted(request: HttpRequest, what: str, detail: str) -> Account:
    audit(person_of(request), None, what, detail)
    return get_account(request)


@router.get("/people", response=People, operation_id="list_people")
def list_people(request: HttpRequest) -> People:
    return _people(who_asks(request).crew)


@router.post("/people/invitations", response={201: Link}, operation_id="invite_person")
def invite_person(request: HttpRequest, body: InviteIn) -> tuple[int, Link]:
    member = who_asks(request)
    secret = membership.invite(member.person, member.crew, body.role, body.name)
    return 201, Link(path=f"/join/{secret}")


@router.delete(
    "/people/invitations/{int:number}",
    response=People,
    operation_id="withdraw_invitation",
)
def withdraw_invitation(request: HttpRequest, number: int) -> People:
    member = who_asks(request)
    membership.withdraw(member.person, member.crew, number)
    return _people(member.crew)


@router.patch("/people/{int:number}", response=People, operation_id="change_member")
def change_member(request: HttpRequest, number: int, body: MemberIn) -> People:
    asks = who_asks(request)
    member = membership.member_numbered(asks.crew, number)
    membership.change_member(asks.person, member, membership.MemberChange(**body.dict()))
    return _people(asks.crew)


@router.post("/people/{int:number}/leave", response=People, operation_id="member_leaves")
def member_leaves(request: HttpRequest, number: int) -> People:
    asks = who_asks(request)
    membership.leaves(asks.person, membership.member_numbered(asks.crew, number))
    return _people(asks.crew)


@router.post("/people/{int:number}/reset", response={201: Link}, operation_id="reset_member")
def reset_member(request: HttpRequest, number: int) -> tuple[int, Link]:
    asks = who_asks(request)
    secret = membership.reset(asks.person, membership.member_numbered(asks.crew, number))
    return 201, Link(path=f"/join/{secret}")


@router.get("/join", auth=None, response=TicketView, operation_id="get_ticket")
def get_ticket(request: HttpRequest, ticket: Secret) -> TicketView:
    found = membership.ticket_of(ticket)
    return TicketView(
        crew=found.crew.name,
        role=found.role,
        name=found.name,
        username=found.resets.get_username() if found.resets else "",
        resets=found.resets is not None,
    )


@router.post("/join", auth=None, response=Session, operation_id="join")
@decorate_view(csrf_protect)
def post_join(request: HttpRequest, ticket: Secret, body: JoinIn) -> Session:
    person = membership.join(ticket, body.username, body.name, body.password)
    sign_in.entered(request, person, "by a link")
    return _session(request)


@router.get("/audit", response=AuditView, operation_id="get_audit")
def get_audit(
    request: HttpRequest, job: UUID | None = None, person: int | None = None, before: int = 0
) -> AuditView:
    crew = who_asks(request).crew
    lines = lines_of(crew, None if job is None else [job], person)
    page = list((lines.filter(pk__lt=before) if before else lines)[: LINES_A_PAGE + 1])
    members = Member.objects.filter(crew=crew).select_related("person").order_by("id")
    return AuditView(
        lines=[_audit_row(one) for one in page[:LINES_A_PAGE]],
        people=[PersonLine(number=m.person_id, name=shown_name(m.person)) for m in members],
        more=len(page) > LINES_A_PAGE,
    )


@router.get("/audit/file", operation_id="get_audit_file")
def get_audit_file(
    request: HttpRequest, job: UUID | None = None, person: int | None = None
) -> HttpResponse:
    crew = who_asks(request).crew
    text = audit_csv(lines_of(crew, None if job is None else [job], person))
    return download(text.encode("utf-8-sig"), "text/csv", "audit.csv")


def _audit_row(line: AuditLine) -> AuditRow:
    return AuditRow(
        number=line.pk,
        at=line.at,
        by=line.by_name,
        what=line.what,
        detail=line.detail,
        job_id=line.job_id,
    )


def _people(crew: Crew) -> People:
    members = Member.objects.filter(crew=crew).select_related("person").order_by("id")
    open_links = Ticket.objects.filter(crew=crew, used_at=None).order_by("id")
    return People(
        crew=crew.name,
        members=[_member_line(one, one.person) for one in members],
        invitations=[
            TicketLine(
                number=one.pk,
                name=one.name,
                role=one.role,
                resets=one.resets_id is not None,
                made_by=one.made_by,
                ends_at=one.ends_at,
            )
            for one in open_links
        ],
    )


def _member_line(member: Member, person: User) -> MemberLine:
    held = getattr(person, "licence", None)
    return MemberLine(
        number=member.pk,
        username=person.get_username(),
        name=shown_name(person),
        role=member.role,
        licence=held.number if held else "",
        licence_ends_on=held.ends_on if held else None,
        joined_at=member.joined_at,
        left_at=member.left_at,
        has_second_factor=bool(factors.ways_of(person)),
    )
