"""Whoever follows a verdict to what it waits for stands in the field that takes it."""

from __future__ import annotations

import json
import re
from typing import Any

from playwright.sync_api import Page, expect

from journeys.browser import BrowserCase
from journeys.chromium import DESK
from server.demo.load import load
from server.settings import ROOT

FIELDS = ROOT / "web" / "src" / "shared" / "judging" / "ledFields.ts"
WORDS = ROOT / "web" / "src" / "words" / "en.json"
STAGES = (
    "arrive", "hang", "earth", "string", "feed", "talk", "prove", "wake", "set", "leave",
)  # fmt: skip
# The control that has the focus is called so, or stands in what is.
STANDS = """(name) => {
  const names = [];
  for (let one = document.activeElement; one?.closest('main, .rail'); one = one.parentElement)
    names.push(one.getAttribute('aria-label'), one.matches('label, button, summary')
      ? (one.querySelector('.entry-label') ?? one).textContent : null);
  return names.includes(name);
}"""
# Of a board; the house of the demo that waits for it has none yet.
NOT_THERE = {"breaker"}
JOBS = "async () => (await fetch('/api/jobs')).json()"
JOB = "async (id) => (await fetch(`/api/jobs/${id}`)).json()"


class Leads(BrowserCase):
    def setUp(self) -> None:
        load()

    def led(self, page: Page) -> dict[str, tuple[str, dict[str, Any]]]:
        """A job and a lead for each field that something of the demo waits for."""
        found: dict[str, tuple[str, dict[str, Any]]] = {}
        for job in page.evaluate(JOBS):
            for point in page.evaluate(JOB, job["id"])["assessment"]["open_points"]:
                lead = point["lead"]
                if lead and lead["field"]:
                    found.setdefault(lead["field"], (job["id"], lead))
        return found

    def test_each_field_that_is_waited_for_is_stood_in_after_one_touch(self) -> None:
        page = self.open(DESK)
        page.get_by_role("button", name="Enter the demo").click()
        expect(page.locator(".day")).to_have_count(7)
        known = dict(
            re.findall(r'^  (\w+): "(.+)"', FIELDS.read_text(encoding="utf-8"), re.MULTILINE)
        )
        words = json.loads(WORDS.read_text(encoding="utf-8"))
        for field, (job, lead) in self.led(page).items():
            if field not in known.keys() - NOT_THERE:
                continue
            with self.subTest(field=field, job=job):
                self.go(page, "/")
                asked = f"face={lead['face']}&field={field}"
                self.go(page, f"/jobs/{job}/{STAGES[lead['stage'] - 1]}?{asked}")
                page.wait_for_function(STANDS, arg=words[known[field]], timeout=8_000)

    def test_a_waiting_verdict_leads_to_the_very_field(self) -> None:
        page = self.stage_of(DESK, "Sail Loft", "leave", "labels")
        page.get_by_role("link", name="enter it").first.click()
        expect(page.get_by_role("combobox", name="Battery's sheet")).to_be_focused()
