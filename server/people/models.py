"""Crews, who belongs to them and how they sign in, their licences, and the audit."""

from __future__ import annotations

from django.conf import settings
from django.db import models
from django.utils import timezone

from server.platform.append_only import AppendOnly

MOST_TOKEN_CHARS = 64


class Crew(models.Model):
    """A firm on this installation: none sees another's jobs, shelf or people."""

    name = models.CharField(max_length=60, unique=True)
    made_at = models.DateTimeField(default=timezone.now)


class Member(models.Model):
    """A person of a crew, and what they may do there. left_at: None while they belong to it."""

    person = models.OneToOneField(
        settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="member"
    )
    crew = models.ForeignKey(Crew, on_delete=models.PROTECT, related_name="members")
    role = models.CharField(max_length=20)
    joined_at = models.DateTimeField(default=timezone.now)
    left_at = models.DateTimeField(null=True)


class Licence(models.Model):
    """The licence by which a person may lift a lock, and the last day on which it holds."""

    person = models.OneToOneField(
        settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="licence"
    )
    number = models.CharField(max_length=60)
    ends_on = models.DateField(null=True)


class Ticket(models.Model):
    """A link that lets somebody in once: a new person to a crew, or one who lost their password.

    digest: of the secret in the link, which itself is kept nowhere.
    """

    digest = models.CharField(max_length=64, unique=True)
    crew = models.ForeignKey(Crew, on_delete=models.PROTECT)
    role = models.CharField(max_length=20, blank=True)
    name = models.CharField(max_length=120)
    resets = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.PROTECT)
    made_by = models.CharField(max_length=120)
    made_at = models.DateTimeField(default=timezone.now)
    ends_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True)


class Passkey(models.Model):
    """A person's passkey: its public half, and how often it was used."""

    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="passkeys"
    )
    credential = models.CharField(max_length=500, unique=True)
    public_key = models.BinaryField()
    count = models.PositiveBigIntegerField(default=0)
    name = models.CharField(max_length=60)
    made_at = models.DateTimeField(default=timezone.now)
    used_at = models.DateTimeField(null=True)


class SeenSession(models.Model):
    """One sign-in that still holds: on which browser, and when it was last seen."""

    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="seen_sessions"
    )
    session_key = models.CharField(max_length=40, unique=True)
    browser = models.CharField(max_length=120, blank=True)
    begun_at = models.DateTimeField(default=timezone.now)
    seen_at = models.DateTimeField(default=timezone.now)


class Erasing(models.Model):
    """Stands only inside the transaction that erases a customer's data: without it rows that are
    kept for good refuse to go."""

    why = models.CharField(max_length=120)


class AuditLine(AppendOnly):
    """Who did what to which job, and when; each line seals the one before it.

    digest: SHA-256 over this line and the digest of the one before, `previous`. detail_digest: of
    the detail, by which a line holds although a customer's data were erased from it.
    """

    at = models.DateTimeField(default=timezone.now)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.PROTECT)
    by_name = models.CharField(max_length=120, blank=True)
    crew = models.ForeignKey(Crew, null=True, on_delete=models.PROTECT)
    job_id = models.UUIDField(null=True, db_index=True)
    what = models.CharField(max_length=60)
    detail = models.TextField(blank=True)
    detail_digest = models.CharField(max_length=64, blank=True)
    erased = models.BooleanField(default=False)
    previous = models.CharField(max_length=64, blank=True)
    digest = models.CharField(max_length=64, blank=True)

    class Meta:
        ordering = ["id"]
