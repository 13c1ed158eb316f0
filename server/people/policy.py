"""Who may do what. An installation is one crew: every active member works on every job."""

from __future__ import annotations

from django.contrib.auth.models import AbstractBaseUser, AnonymousUser

Person = AbstractBaseUser | AnonymousUser


def may_work(person: Person) -> bool:
    """May this person see and change jobs?"""
    return person.is_authenticated and person.is_active


def licence_of(person: Person) -> str:
    """The number of a person's licence; empty without one."""
    held = getattr(person, "licence", None) if may_work(person) else None
    return str(held.number) if held is not None else ""


def may_override(person: Person) -> bool:
    """May this person lift a lock of a sequence?"""
    return licence_of(person) != ""
