"""Entering a plant in its portal, and asking what it heard: what comes of it is a reading."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.conf import settings
from django.contrib.auth.models import User

from core.assess import assess
from core.base.errors import Refused, problem
from core.base.messages import say
from core.entry import Entry
from core.job.job import Job
from core.job.reading_kinds import ReadingKind
from core.job.readings import INVERTER
from core.job.talk import AccountPlan, TalkPlan
from core.stages.reading_index import Readings, kept_of
from core.stages.talk.prompts import out_by
from devices.portal import PortalAnswer, enter_plant, plant_heard
from devices.reach import reachable
from server.jobs.stored import load
from server.people.audit import audit
from server.platform.heavy import heavy
from server.readings.actions import keep_all

HOST = "$.talk.account.host"


def register(person: User, job_id: UUID) -> None:
    """Enter the plant; that it was taken is kept as a reading.

    Raises Refused before any device reached the network, and for whatever the portal does but take
    it; then nothing is kept.
    """
    job = load(job_id).job
    plan, account = _planned(job)
    for one in out_by(plan):
        answered = Readings(kept_of(job)).latest("network_answers", one.name)
        if answered is None or not answered.is_good:
            said = say("portal", "unlinked", device=one.name)
            raise Refused([problem("$.talk", one.name, "a device on the network", said)])
    host = reachable(account.host, settings.DEVICE_NETWORKS, HOST, account.port)
    with heavy(f"portal-{host}-{account.port}", slots=1):
        answer = enter_plant(host, account.port, page(job, plan, account))
    _refuse_unless_taken(answer, account)
    keep_all(person, job_id, (_entry("account_step", "entered", "1", account.portal),))
    audit(person, job_id, "plant entered in its portal", account.portal)


def look(person: User, job_id: UUID) -> None:
    """Ask what the portal has heard; the count, and a first value, are kept as readings.

    Raises Refused for a portal that does not say; then nothing is kept.
    """
    job = load(job_id).job
    plan, account = _planned(job)
    host = reachable(account.host, settings.DEVICE_NETWORKS, HOST, account.port)
    with heavy(f"portal-{host}-{account.port}", slots=1):
        answer = plant_heard(host, account.port, job.id)
    _refuse_unless_taken(answer, account)
    asks = {one.key for one in assess(job).asks}
    units = {row.serial for row in assess(job).talk.map}
    count = sum(one in units for one in answer.heard)
    entries = [
        _entry("report_count", one.name, str(count), account.portal)
        for one in plan.devices
        if one.sheet.pairing is not None and f"report_count/{one.name}" in asks
    ]
    if answer.heard:
        entries.append(_entry("account_step", "first_value", "1", account.portal))
    if entries:
        keep_all(person, job_id, tuple(entries))
    said = say("portal", "heard", count=str(len(answer.heard)))
    audit(person, job_id, "portal looked at", said)


def page(job: Job, plan: TalkPlan, account: AccountPlan) -> dict[str, Any]:
    """The plant's page as the portal takes it: no secret, and check codes beside serials."""
    readings = Readings(kept_of(job))
    codes = {}
    for one in out_by(plan):
        of_inverter = one.sheet.what == "inverter"
        serial = readings.latest("nameplate_serial", INVERTER) if of_inverter else None
        serial = serial or readings.latest("device_serial", one.name)
        code = readings.latest("check_code", one.name)
        if serial is not None:
            codes[serial.text] = code.text if code else ""
    serials = dict.fromkeys((*codes, *(row.serial for row in assess(job).talk.map if row.serial)))
    return {
        "plant": job.id,
        "name": job.name,
        "owner": account.owner_name,
        "mail": account.owner_mail,
        "address": account.address,
        "power_kw": account.power_kw,
        "modules": account.modules,
        "tariff": account.tariff,
        "devices": [{"serial": one, "check_code": codes.get(one, "")} for one in serials],
    }


def _planned(job: Job) -> tuple[TalkPlan, AccountPlan]:
    if job.talk is None or job.talk.account is None or not job.talk.account.host:
        said = say("portal", "none")
        raise Refused([problem(HOST, "none", "the portal's network address", said)])
    return job.talk, job.talk.account


def _refuse_unless_taken(answer: PortalAnswer, account: AccountPlan) -> None:
    if answer.outcome != "accepted":
        said = say(
            "portal", answer.outcome, why=answer.why, status=answer.why,
            host=account.host, port=str(account.port),
        )  # fmt: skip
        raise Refused([problem(HOST, account.host, "a portal that answers", said)])


def _entry(kind: ReadingKind, subject: str, entered: str, portal: str) -> Entry:
    return Entry(
        kind=kind, subject=subject, entered=entered, taken_at=None, instrument="", note=portal,
        supersedes=None,
    )  # fmt: skip
