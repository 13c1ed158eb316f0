"""Who may do what, which rows are theirs, and who else may: the one place where that is decided."""

from __future__ import annotations

from datetime import UTC, date, datetime
from typing import Literal, TypeVar, get_args

from django.contrib.auth.models import AbstractBaseUser, AnonymousUser, User
from django.db.models import Model, QuerySet

from core.job.reading_kinds import ReadingKind
from server.people.models import Crew, Licence, Member
from server.platform.problems import Forbidden

Person = AbstractBaseUser | AnonymousUser
Role = Literal["owner", "electrician", "installer", "apprentice", "office"]
# What an operation is, as far as it matters who does it. own: one's own account.
Doing = Literal[
    "own",
    "see",
    "plan",
    "read",
    "switch",
    "countersign",
    "sign",
    "lift",
    "write_device",
    "take_in",
    "export",
    "shelf",
    "share",
    "audit",
    "people",
    "erase",
]
ROLES: tuple[Role, ...] = get_args(Role)
DOINGS: tuple[Doing, ...] = get_args(Doing)
_SITE: tuple[Doing, ...] = ("own", "see", "plan", "read", "switch", "write_device", "shelf")
_PAPER: tuple[Doing, ...] = ("take_in", "export", "share")
MAY: dict[Role, frozenset[Doing]] = {
    "owner": frozenset(DOINGS),
    "electrician": frozenset((*_SITE, *_PAPER, "countersign", "sign", "lift", "audit")),
    "installer": frozenset((*_SITE, *_PAPER, "countersign", "sign")),
    "apprentice": frozenset(("own", "see", "read")),
    "office": frozenset(("own", "see", "plan", "shelf", *_PAPER)),
}
# What is read by switching something, or says that it may be touched: beyond an apprentice.
SWITCHING: frozenset[ReadingKind] = frozenset(
    ("dead_step", "swap_step", "branch_on", "wake_step", "switch_stands", "loss_moment")
)
# Every operation of the API by what it is; one that is not here is refused to everybody.
OPERATIONS: dict[str, Doing] = {
    "sign_out": "own",
    "change_password": "own",
    "get_account": "own",
    "end_session": "own",
    "begin_code": "own",
    "confirm_code": "own",
    "remove_code": "own",
    "begin_passkey": "own",
    "keep_passkey": "own",
    "remove_passkey": "own",
    "get_standing": "own",
    "get_shelf": "see",
    "get_pack": "see",
    "list_sheets": "see",
    "get_library_entry": "see",
    "get_columns": "see",
    "get_sheet": "see",
    "list_jobs": "see",
    "get_job": "see",
    "get_example": "see",
    "take_along": "see",
    "judged_apart": "see",
    "get_offers": "see",
    "get_figures": "see",
    "get_sum": "see",
    "get_sun": "see",
    "offer_branches": "see",
    "get_wall_sun": "see",
    "get_evidence": "see",
    "get_record_page": "see",
    "testers_used_before": "see",
    "test_columns": "see",
    "rehearse": "see",
    "judge_bench": "see",
    "find_arrangements": "plan",
    "find_places": "plan",
    "create_job": "plan",
    "change_job": "plan",
    "edit_job": "plan",
    "undo_change": "plan",
    "get_plan_history": "see",
    "read_climate": "plan",
    "read_label": "plan",
    "list_climates": "see",
    "find_places_named": "plan",
    "place_at": "plan",
    "towns_on_map": "plan",
    "read_roof_table": "plan",
    "list_begun": "see",
    "get_begun": "plan",
    "answer_begun": "plan",
    "put_away_begun": "plan",
    "job_from_begun": "plan",
    "keep_reading": "read",
    "try_reading": "read",
    "keep_clear_sky": "read",
    "take_serial_map": "read",
    "count_goods": "read",
    "keep_evidence": "read",
    "look_at_test_file": "read",
    "take_test_file": "read",
    "look_at_gateway": "read",
    "take_unit_list": "read",
    "follow_gateway": "read",
    "register_plant": "write_device",
    "look_at_portal": "read",
    "look_at_meter": "read",
    "countersign": "countersign",
    "get_signing": "see",
    "get_day": "see",
    "get_day_sheet": "see",
    "get_day_tasks": "see",
    "get_day_calendar": "see",
    "get_weeks": "see",
    "get_calendar": "see",
    "propose_visits": "plan",
    "keep_absence": "plan",
    "end_absence": "plan",
    "take_busy": "plan",
    "get_day_relax": "see",
    "try_day": "see",
    "sign_record": "sign",
    "get_signed_record": "export",
    "keep_yield": "read",
    "keep_yield_file": "read",
    "keep_yield_counter": "write_device",
    "lift_lock": "lift",
    "write_profile": "write_device",
    "look_at_settings": "write_device",
    "watch_live": "write_device",
    "take_in_job": "take_in",
    "get_job_file": "export",
    "get_job_bundle": "export",
    "get_assessment_file": "export",
    "get_record": "export",
    "get_record_part": "export",
    "get_owner_pages": "export",
    "get_labels": "export",
    "get_label": "export",
    "get_serials": "export",
    "get_dossier": "export",
    "get_support": "export",
    "get_energy_path": "export",
    "get_serial_map": "export",
    "get_drill_sheet": "export",
    "get_load_in": "export",
    "test_template": "export",
    "test_record": "export",
    "get_template": "export",
    "get_shelf_file": "export",
    "keep_pack": "shelf",
    "keep_sheet": "shelf",
    "take_in_sheets": "shelf",
    "withdraw_sheet": "shelf",
    "list_guests": "share",
    "invite_guest": "share",
    "end_guest": "share",
    "get_audit": "audit",
    "get_audit_file": "audit",
    "list_people": "people",
    "invite_person": "people",
    "withdraw_invitation": "people",
    "change_member": "people",
    "member_leaves": "people",
    "reset_member": "people",
    "personal_data": "erase",
    "erase_job": "erase",
}
Rows = TypeVar("Rows", bound=Model)


def member_of(person: Person) -> Member | None:
    """Who this person is in their crew; None for strangers and for those who left."""
    if not (person.is_authenticated and person.is_active and isinstance(person, User)):
        return None
    member = (
        Member.objects.filter(person=person, left_at=None).select_related("crew", "person").first()
    )
    return member if member is not None and member.role in MAY else None


def may(person: Person, doing: Doing) -> bool:
    """May this person do this? Lifting a lock takes a licence that holds as well."""
    member = member_of(person)
    return member is not None and member_may(member, doing)


def member_may(member: Member, doing: Doing) -> bool:
    """May this member of a crew do this?"""
    allowed = any(member.role == role and doing in MAY[role] for role in ROLES)
    return allowed and (doing != "lift" or licence_of(member.person) != "")


def may_read(person: Person, kind: ReadingKind) -> bool:
    """May this person keep a reading of this kind?"""
    return may(person, "switch" if kind in SWITCHING else "read")


def is_learner(person: Person) -> bool:
    """Whether what this person measures is countersigned."""
    return may(person, "read") and not may(person, "countersign")


def doings_of(person: Person) -> tuple[Doing, ...]:
    """Everything that this person may do."""
    member = member_of(person)
    return () if member is None else tuple(one for one in DOINGS if member_may(member, one))


def of_crew(person: Person, rows: QuerySet[Rows], crew: str = "crew") -> QuerySet[Rows]:
    """Of some rows those that are this person's crew's to see; none for a stranger."""
    member = member_of(person)
    return rows.none() if member is None else rows.filter(**{crew: member.crew})


def crew_of(person: Person) -> Crew:
    """The crew of a person who belongs to one. Raises Forbidden, as for one who left meanwhile."""
    member = member_of(person)
    if member is None:
        raise Forbidden
    return member.crew


def who_may(crew: Crew, doing: Doing) -> tuple[Member, ...]:
    """Who of a crew may do this."""
    members = Member.objects.filter(crew=crew, left_at=None).select_related("person")
    return tuple(one for one in members.order_by("id") if member_may(one, doing))


def licence_of(person: Person, today: date | None = None) -> str:
    """The number of a person's licence while it holds; empty without one."""
    held: Licence | None = getattr(person, "licence", None)
    if held is None or not (person.is_authenticated and person.is_active):
        return ""
    day = today or datetime.now(UTC).date()
    return "" if held.ends_on is not None and held.ends_on < day else held.number
