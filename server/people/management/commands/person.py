"""People of this installation: manage.py person add|list|remove|rename|role|reset …"""

from __future__ import annotations

import getpass
from argparse import ArgumentParser
from typing import Any

from django.contrib.auth.models import User
from django.core.management.base import BaseCommand, CommandError, CommandParser

from core.base.errors import Refused
from server.people import membership
from server.people.audit import shown_name
from server.people.models import Crew, Member
from server.people.policy import ROLES, licence_of

ONE_CREW = "This crew"


class Command(BaseCommand):
    """Who may sign in, in which crew and role."""

    help = "Add, list, rename and remove people; the first of a crew owns it."

    def add_arguments(self, parser: CommandParser) -> None:
        does = parser.add_subparsers(dest="does", required=True)
        add = does.add_parser("add", help="somebody new; asks for a password")
        self._who(add)
        add.add_argument("--crew", default="", help="founded where there is none of that name")
        add.add_argument("--role", default="", choices=["", *ROLES])
        add.add_argument("--name", default="", help="the name that stands beside a reading")
        does.add_parser("list", help="everybody, crew by crew")
        self._who(does.add_parser("remove", help="they leave; what they did stays"))
        rename = does.add_parser("rename", help="the name that stands beside a reading")
        self._who(rename)
        rename.add_argument("name")
        role = does.add_parser("role", help="another role")
        self._who(role)
        role.add_argument("role", choices=ROLES)
        self._who(does.add_parser("reset", help="prints a link that sets a new password"))

    def _who(self, parser: ArgumentParser) -> None:
        parser.add_argument("username")

    def handle(self, *args: Any, **given: Any) -> None:
        try:
            getattr(self, given["does"])(given)
        except Refused as refused:
            raise CommandError(" ".join(one.message for one in refused.problems)) from None

    def add(self, given: dict[str, Any]) -> None:
        """Somebody new: the first of a crew owns it, any other is an installer unless told."""
        crew = self._crew(given["crew"])
        role = given["role"] or ("installer" if crew.members.exists() else "owner")
        password = self._password()
        person = membership.add_person(crew, given["username"], role, password, given["name"])
        self.stdout.write(f"{shown_name(person)} is {role} of {crew.name}.")

    def list(self, given: dict[str, Any]) -> None:
        """Everybody, crew by crew."""
        for member in Member.objects.select_related("person", "crew").order_by("crew", "id"):
            gone = f", left {member.left_at:%Y-%m-%d}" if member.left_at else ""
            licence = licence_of(member.person)
            held = f", licence {licence}" if licence else ""
            name = f"{member.person.get_username()} ({shown_name(member.person)})"
            self.stdout.write(f"{member.crew.name}: {name}, {member.role}{held}{gone}")

    def remove(self, given: dict[str, Any]) -> None:
        """They sign in no more; what they did stays, with their name."""
        person = self._member(given).person
        membership.leaves(person, person.member)
        self.stdout.write(f"{shown_name(person)} has left. What they did stays.")

    def rename(self, given: dict[str, Any]) -> None:
        """Another name beside readings to come; those that were kept keep theirs."""
        member = self._member(given)
        change = membership.MemberChange(name=given["name"])
        membership.change_member(member.person, member, change)
        self.stdout.write(f"{given['username']} is called {shown_name(member.person)} now.")

    def role(self, given: dict[str, Any]) -> None:
        """Another role."""
        member = self._member(given)
        change = membership.MemberChange(role=given["role"])
        membership.change_member(member.person, member, change)
        self.stdout.write(f"{given['username']} is {member.role} of {member.crew.name} now.")

    def reset(self, given: dict[str, Any]) -> None:
        """A link for who lost their password or phone; it holds for a day, once."""
        member = self._member(given)
        secret = membership.reset(member.person, member)
        self.stdout.write(f"Open this on this installation within a day: /join/{secret}")

    def _crew(self, name: str) -> Crew:
        if name:
            return membership.found_crew(name)
        first = Crew.objects.order_by("id").first()
        return first or membership.found_crew(ONE_CREW)

    def _member(self, given: dict[str, Any]) -> Member:
        person: User = membership.person_named(given["username"])
        found = Member.objects.filter(person=person, left_at=None).first()
        if found is None:
            raise CommandError(f"{given['username']} belongs to no crew.")
        return found

    def _password(self) -> str:
        first = getpass.getpass("Password: ")
        if getpass.getpass("Once more: ") != first:
            raise CommandError("The two differ. Nothing was kept.")
        return first
