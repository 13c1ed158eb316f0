"""Every sentence of the screen comes from the file of words, so that another language can.

The file is answered with a sign before and behind each of its sentences; whatever is then read on a
view without the signs around it must be the core's own, a name of the job, a figure or a date.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any

from playwright.sync_api import Page, Route, expect

from journeys.browser import BrowserCase
from journeys.chromium import DESK
from journeys.test_access import DOORS, STAGES
from server.demo.load import load
from server.jobs.models import JobRow

BEFORE, BEHIND = "‹", "›"
# What is read on the page, aloud too, and does not stand between the signs.
UNSIGNED = """([before, behind]) => {
  const found = new Set();
  const worded = (text) => /[A-Za-z]{2,}/.test(text) && found.add(text);
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  let depth = 0;
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    let bare = '';
    for (const sign of node.data) {
      if (sign === before) depth += 1;
      else if (sign === behind) depth -= 1;
      else if (depth === 0) bare += sign;
    }
    worded(bare);
  }
  for (const one of document.querySelectorAll('[aria-label], [title], [placeholder], [alt]')) {
    for (const name of ['aria-label', 'title', 'placeholder', 'alt']) {
      const text = one.getAttribute(name);
      if (text !== null && !text.includes(before)) worded(text);
    }
  }
  return [...found];
}"""
BETWEEN = re.compile(r"[·,:;()\n/…“”.]|\s–\s")
# The page counts the tasks of a day, before labels that are cut where their bar ends.
COUNTED = re.compile(r"^\d+ (?=\S)")
FIGURE = re.compile(r"^[\d\s−+±–.]+[A-Za-zΩµ°²/%]*$")
DATE = re.compile(
    r"^((Mon|Tues|Wednes|Thurs|Fri|Satur|Sun)day )?\d{1,2} [A-Z][a-z]+( \d{4})?$|^[MTWFS][a-z]{2}$"
)
SPOKEN = re.compile(r"[A-Za-z]{2,}")


def strings(answer: Any) -> Iterator[str]:
    """Every string of an answer, names of fields too."""
    if isinstance(answer, str):
        yield answer
    elif isinstance(answer, list):
        for one in answer:
            yield from strings(one)
    elif isinstance(answer, dict):
        for name, one in answer.items():
            yield name
            yield from strings(one)


class Words(BrowserCase):
    def setUp(self) -> None:
        load()
        self.answered: list[str] = []

    def signed(self) -> Page:
        """The app with every sentence of the file between signs."""
        page = self.open(DESK)

        def sign(route: Route) -> None:
            answer = route.fetch()
            words = {name: f"{BEFORE}{text}{BEHIND}" for name, text in answer.json().items()}
            route.fulfill(response=answer, json=words)

        def hear(route: Route) -> None:
            answer = route.fetch()
            if "json" in answer.headers.get("content-type", ""):
                self.answered += strings(answer.json())
            route.fulfill(response=answer)

        page.route("**/assets/en-*.json", sign)
        page.route("**/api/**", hear)
        page.reload()
        return page

    def strays(self, page: Page) -> list[str]:
        known = "\n".join(self.answered)
        told = page.evaluate(UNSIGNED, [BEFORE, BEHIND])
        parts = {part.strip(" -–×") for text in told for part in BETWEEN.split(text)}
        return sorted(
            part
            for part in parts
            if SPOKEN.search(part)
            and COUNTED.sub("", part) not in known
            and not FIGURE.match(part)
            and not DATE.match(part)
        )

    def test_nothing_is_said_that_does_not_stand_in_the_file_or_comes_from_the_core(self) -> None:
        page = self.signed()
        enter = page.get_by_role("button", name="Enter the demo")
        expect(enter).to_be_visible()
        self.assertEqual(self.strays(page), [], "sign in")
        enter.click()
        expect(page.locator(".day")).to_have_count(7)
        ids = dict(JobRow.objects.values_list("plan__name", "id"))
        roof = ids["Slipway Cottage"]
        for path in (
            "",
            *DOORS,
            *(f"jobs/{ids['Lantern House']}/{stage}" for stage in STAGES),
            *(f"jobs/{roof}/{stage}" for stage in ("hang", "string", "wake")),
        ):
            self.go(page, f"/{path}")
            expect(page.locator("h1").first).to_be_visible()
            with self.subTest(path=path):
                self.assertEqual(self.strays(page), [])
