"""The core in the browser: judged where one stands, the same as on the server, and brought home."""

from __future__ import annotations

import json
import os
import random
import re
import subprocess
import tempfile
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any
from unittest import TestCase
from uuid import UUID

from django.conf import settings
from django.contrib.auth.models import User
from playwright.sync_api import Page, expect

from core.edits.fields import Change
from core.hand.answer import answer
from core.hand.held import whole_as_whole
from core.version import core_version
from journeys.test_no_signal import Hand
from journeys.test_roof_stage import SERIALS
from journeys.test_site_stages import picture
from server.demo.load import JOBS_DIR
from server.jobs import actions
from server.jobs.stored import load
from server.people.models import AuditLine

PRESSES = int(os.environ.get("LONG_NOON_PRESSES", "8"))
AT = "2026-11-02T10:00:00+00:00"
ANSWERS = Path("web/tools/answers.mjs")
FIELDS = (
    ("$.site.altitude_m", "{:.0f} m", 0, 900),
    ("$.site.t_air_min_c", "{:.1f}", -25, 5),
    ("$.site.t_air_max_c", "{:.1f}", 20, 45),
    ("$.feed.nominal_v", "{:.0f} V", 225, 240),
    ("$.feed.runs[0].length_m", "{:.1f} m", 1, 60),
)


class Packed(TestCase):
    """The core as it is packed for the browser, asked what the core here is asked."""

    def test_it_answers_to_the_last_digit_as_the_core_here(self) -> None:
        assert settings.ENGINE_ROOT is not None
        dice, questions = random.Random(21), []
        for file in sorted(JOBS_DIR.glob("*.json")):
            questions += self._questions(json.loads(file.read_text()), dice)
        with tempfile.TemporaryDirectory() as folder:
            asked, told = Path(folder) / "asked", Path(folder) / "told"
            asked.write_text("\n".join(questions))
            core = settings.ENGINE_ROOT / "engine" / core_version()
            subprocess.run(["node", ANSWERS, core, asked, told], check=True, capture_output=True)
            there = told.read_text().splitlines()
        made = 0
        for question, said in zip(questions, there, strict=True):
            here = answer(question)
            made += "refused" not in json.loads(here)
            same = whole_as_whole(here) == whole_as_whole(said)
            self.assertTrue(same, f"{question[:300]}: {_apart(here, said)}")
        self.assertGreater(made, len(questions) // 2)

    def _questions(self, house: Any, dice: random.Random) -> list[str]:
        given = {"house": house, "revision": 1, "by": "A", "learner": False}
        given |= {"only_with_server": [], "sheets": {}, "packs": {}, "pressed": []}
        given["sky"] = {"latitude_deg": 0, "longitude_deg": 0, "altitude_m": 0, "days": []}
        ids = [house["id"], *(one["id"] for one in house.get("stations", []))]
        job = dice.choice(ids)
        first = {"do": "open", "job": job, "at": AT, "waiting": [], "given": given}
        asks = json.loads(answer(json.dumps(first)))["changes"]["whole"]["assessment"]["asks"]
        found: list[dict[str, Any]] = [first]
        for number in range(PRESSES):
            what = _changed(dice) if dice.random() < 0.4 else _read(dice.choice(asks), dice)
            press = {"id": str(UUID(int=number, version=4)), "at": AT, **what}
            found.append({"do": "press", "job": job, "at": AT, "press": press})
        return [json.dumps(one) for one in found]


def _changed(dice: random.Random) -> dict[str, Any]:
    path, form, low, high = dice.choice(FIELDS)
    return {"changes": [{"path": path, "entered": form.format(dice.uniform(low, high))}]}


def _read(ask: Any, dice: random.Random) -> dict[str, Any]:
    entered = f"{dice.choice((0.3, 3, 30, 300)) * dice.uniform(0.5, 2):.3g}"
    if ask["answers"]:
        entered = dice.choice(("1", "-1"))
    return {"reading": {"kind": ask["kind"], "subject": ask["subject"], "entered": entered}}


def _apart(here: str, there: str) -> str:
    at = next((n for n, (a, b) in enumerate(zip(here, there, strict=False)) if a != b), 0)
    return f"{here[max(at - 80, 0) : at + 40]} | {there[max(at - 20, 0) : at + 40]}"


class WithCore(Hand):
    core_in_browser = True

    def enter(self, stage: str = "string") -> Page:
        page = super().enter(stage)
        self.judges(page)
        return page

    def judges(self, page: Page) -> None:
        """Wait until the core in this browser holds the job."""
        expect(page.locator(f'html[data-judges="{self.job.id}"]')).to_have_count(1)

    @property
    def person(self) -> User:
        return User.objects.get(username=settings.DEMO_USERNAME)

    def plan(self) -> Any:
        return load(self.job.id).job

    def coldest(self, page: Page, text: str) -> None:
        """The coldest air of the plan, typed and judged."""
        page.get_by_role("button", name="Change the plan").click()
        field = page.get_by_label("Coldest", exact=True)
        field.fill(text)
        field.press("Enter")
        page.get_by_role("button", name="Close", exact=True).click()
        expect(page.get_by_text(f"air {text.replace('-', '−')} °C to").first).to_be_visible()

    def home(self, page: Page, readings: int, air_c: float) -> None:
        """Wait until everything is on the server."""
        self.until(page, lambda: self.plan().site.t_air_min_c == air_c)
        self.sent(page, readings)

    def agreed(self) -> None:
        self.assertFalse(AuditLine.objects.filter(what="judged apart on a device").exists())


class CoreInHand(WithCore):
    def test_a_key_is_judged_here_and_the_server_finds_the_same(self) -> None:
        page, asked = self.enter(), []
        page.on("request", lambda request: asked.append(request.url))
        self.take(page, "irradiance", "South roof", "812")
        self.leave(page)
        self.coldest(page, "-14")
        self.home(page, 1, -14)
        self.agreed()
        # The verdict on what was typed was not asked of the server.
        self.assertFalse([url for url in asked if url.endswith("/try")], asked)

    def test_without_signal_readings_and_plan_are_judged_here_and_come_home(self) -> None:
        page = self.enter()
        page.context.set_offline(True)
        self.take(page, "irradiance", "South roof", "812")
        self.leave(page)
        line = page.locator('[id="ask-irradiance/South roof"]')
        expect(line).to_contain_text("on this device")
        expect(line.locator(".mark").first).to_contain_text("clear")
        self.coldest(page, "-14")
        head = self.head(page)
        expect(head).to_contain_text("2 entries on this device")
        expect(head).to_contain_text(f"judged here, core {core_version()}")
        page.context.set_offline(False)
        self.home(page, 1, -14)
        self.agreed()

    def test_what_somebody_else_changed_meanwhile_is_shown_and_chosen(self) -> None:
        for chosen, typed, air_c in (("Mine", "-14", -14), ("Theirs", "-16", -12)):
            with self.subTest(chosen):
                page = self.enter()
                page.context.set_offline(True)
                self.coldest(page, typed)
                revision = load(self.job.id).revision
                theirs = (Change(path="$.site.t_air_min_c", entered="-12"),)
                actions.change(self.person, self.job.id, revision, theirs)
                page.context.set_offline(False)
                head = self.head(page)
                expect(head).to_contain_text("1 changed by somebody else too: choose")
                head.get_by_role("button", name="look").click()
                shown = typed.replace("-", "−")
                expect(head).to_contain_text(f"coldest air: mine {shown} °C, theirs −12 °C")
                head.get_by_role("button", name=chosen).click()
                self.home(page, 0, air_c)


class SerialsWithoutSignal(WithCore):
    job_name = "Slipway Cottage"

    def test_the_serials_of_a_roof_are_scanned_and_judged_without_signal(self) -> None:
        page = self.enter()
        page.get_by_role("tab", name="map").click()
        expect(page.get_by_text("14 of 18")).to_be_visible()
        page.context.set_offline(True)
        first = page.get_by_label("Serial of U15")
        first.fill(SERIALS[0])
        first.press("Enter")
        expect(page.get_by_role("alert").get_by_text("is on U1 already")).to_be_visible()
        first.fill("")
        for at, serial in enumerate(SERIALS[14:], start=15):
            expect(page.get_by_label(f"Serial of U{at}")).to_be_focused()
            page.keyboard.type(serial)
            page.keyboard.press("Enter")
        expect(page.get_by_text("All 18 serials are on the map.")).to_be_visible()
        expect(self.head(page)).to_contain_text("4 readings on this device")
        self.assertEqual(self.new(), [])
        page.context.set_offline(False)
        self.sent(page, 4)
        self.assertEqual([row.text for row in self.new()], SERIALS[14:])
        self.agreed()


class DayWithoutServer(WithCore):
    service_workers = "allow"

    def test_a_day_on_site_without_a_server_and_the_way_home(self) -> None:
        """Opened once with signal; then nothing, with the app closed in between, until evening."""
        page = self.enter()
        laid = "() => navigator.serviceWorker.ready.then((laid) => laid.active !== null)"
        page.wait_for_function(laid)
        page.reload()
        self.judges(page)
        context, address = page.context, page.url
        context.set_offline(True)
        self.take(page, "irradiance", "South roof", "812")
        self.leave(page)
        self.coldest(page, "-14")
        page.goto("about:blank")
        page = context.new_page()
        page.goto(address)
        self.judges(page)
        expect(page.locator('[id="ask-irradiance/South roof"]')).to_contain_text("812 W/m²")
        expect(page.get_by_text("air −14 °C to").first).to_be_visible()
        # The sun of the day is there too, and a figure of it in the place of a meter's.
        expect(page.locator(".sun-now b")).to_be_visible()
        west = page.locator('[id="ask-irradiance/West roof"]')
        west.locator(".ask-head").click()
        page.get_by_role("button", name="it was earlier").click()
        noon_before = datetime.now(UTC).date() - timedelta(days=1)
        page.get_by_label("Read at").fill(f"{noon_before}T12:05")
        page.get_by_role("button", name="Take the clear-sky figure instead").click()
        expect(west).to_contain_text("clear sky, computed")
        self.leave(page)
        west.locator(".ask-head").click()
        west.get_by_label(re.compile("^Picture of")).set_input_files(picture())
        expect(west.locator(".photo", has_text="on this device")).to_be_visible()
        expect(self.head(page)).to_contain_text("4 entries on this device")
        self.assertEqual(self.new(), [])
        context.set_offline(False)
        self.home(page, 2, -14)
        self.until(page, lambda: self.plan().evidence != ())
        self.assertEqual(len(self.plan().evidence), 1)
        sky = self.new()[1]
        self.assertEqual((sky.kind, sky.basis), ("irradiance", "clear_sky"))
        self.agreed()
