"""Who may do what. An installation is one crew: every active member works on every job."""

from __future__ import annotations

from django.contrib.auth.models import AbstractBaseUser, AnonymousUser

Person = AbstractBaseUser | AnonymousUser


def may_work(person: Person) -> bool:
    """May this person see and change jobs?"""
    return person.is_authenticated and person.is_active
