"""Every view by axe, at both sizes in three lights; 320 px wide and text twice as large."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from playwright.sync_api import Page, expect

from journeys.browser import BrowserCase
from journeys.chromium import DESK, HAND
from server.demo.load import load
from server.jobs.models import JobRow
from server.settings import ROOT

AXE = ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js"
STAGES = (
    "arrive", "hang", "earth", "string", "feed", "talk", "prove", "wake", "set", "leave", "day",
)  # fmt: skip
DOORS = (
    "shelf",
    "bench",
    "weeks",
    "people",
    "account",
    "audit",
    "begin/" + "0" * 8 + "-0000-4000-8000-" + "0" * 12,
)
LIGHTS = ("paper", "glare", "loft")
# What a screen reader is told of the page, and what is said to it aloud: names that hold what is
# seen. A light changes contrast alone.
RUN = """async (light) => {
  const rules = ['color-contrast', 'link-in-text-block'];
  const found = await axe.run(document, light !== 'paper' ? {runOnly: rules} : {
    runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'best-practice'],
    rules: {'label-content-name-mismatch': {enabled: true}}});
  return found.violations.flatMap((one) => one.nodes.map((node) =>
    `${one.id}: ${node.target.join(' ')} `
    + (node.any[0] ?? node.all[0] ?? node.none[0])?.message));
}"""
NARROW = {"width": 320, "height": 640}
# A desk at 200 %: half as wide and half as high.
ENLARGED = {"width": 640, "height": 400}
# Nothing is wider than the page, but what is scrolled by itself.
WIDER = """() => document.documentElement.scrollWidth - document.documentElement.clientWidth"""


class Access(BrowserCase):
    def setUp(self) -> None:
        load()

    def views(self, page: Page) -> Iterator[str]:
        """Every view of the demo, shown."""
        ids = dict(JobRow.objects.values_list("plan__name", "id"))
        wall, roof = ids["Lantern House"], ids["Slipway Cottage"]
        yield "home"
        for path in (
            *DOORS,
            *(f"jobs/{wall}/{stage}" for stage in STAGES),
            *(f"jobs/{roof}/{stage}" for stage in ("hang", "string")),
        ):
            self.go(page, f"/{path}")
            expect(page.locator("h1").first).to_be_visible()
            expect(page.locator(".nothing", has_text="Opening")).to_have_count(0)
            yield path

    def enter(self, size: dict[str, int]) -> Page:
        page = self.open(size)
        page.get_by_role("button", name="Enter the demo").click()
        expect(page.locator(".day")).to_have_count(7)
        return page

    def lit(self, page: Page) -> Iterator[str]:
        """A view in each of the three lights, the first of them last."""
        for _ in LIGHTS:
            page.evaluate("() => document.activeElement?.blur()")
            page.keyboard.press("l")
            yield str(page.locator("html").get_attribute("data-light"))

    def test_no_view_violates_what_axe_looks_for(self) -> None:
        source = AXE.read_text(encoding="utf-8")
        told: list[str] = []
        for size in (DESK, HAND):
            page = self.enter(size)
            page.evaluate(source)
            for view in self.views(page):
                for light in self.lit(page):
                    violations: Any = page.evaluate(RUN, light)
                    told += [f"{light} {size['width']} {view}: {one}" for one in violations]
        self.assertEqual(told, [], "\n" + "\n".join(told))

    def test_at_320_pixels_and_at_200_percent_nothing_is_lost(self) -> None:
        told: list[str] = []
        for size in (NARROW, ENLARGED):
            page = self.enter(size)
            wide = {view: page.evaluate(WIDER) for view in self.views(page)}
            told += [
                f"{size['width']} {view}: {px} px too wide" for view, px in wide.items() if px > 0
            ]
        self.assertEqual(told, [], "\n" + "\n".join(told))
