"""Every view by axe: no violation, at both sizes and in the three lights; 320 px without loss."""

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
LIGHTS = ("", "glare", "loft")
# What a screen reader is told of the page, and contrast; a live region is no landmark.
RUN = """async () => {
  const found = await axe.run(document, {runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa',
    'best-practice']});
  return found.violations.flatMap((one) => one.nodes.map((node) =>
    `${one.id}: ${node.target.join(' ')} `
    + (node.any[0] ?? node.all[0] ?? node.none[0])?.message));
}"""
NARROW = {"width": 320, "height": 640}
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
            page.wait_for_load_state("networkidle")
            expect(page.locator("h1").first).to_be_visible()
            expect(page.locator(".nothing", has_text="Opening")).to_have_count(0)
            yield path

    def enter(self, size: dict[str, int], light: str = "") -> Page:
        page = self.open(size)
        page.get_by_role("button", name="Enter the demo").click()
        expect(page.locator(".day")).to_have_count(7)
        if light:
            page.evaluate("(light) => localStorage.setItem('light', light)", light)
            page.reload()
            expect(page.locator(".day")).to_have_count(7)
        return page

    def test_no_view_violates_what_axe_looks_for(self) -> None:
        source = AXE.read_text(encoding="utf-8")
        found: dict[str, list[str]] = {}
        for light, size in zip(LIGHTS, (DESK, HAND, DESK), strict=True):
            page = self.enter(size, light)
            page.evaluate(source)
            for view in self.views(page):
                violations: Any = page.evaluate(RUN)
                if violations:
                    found[f"{light or 'day'} {size['width']} {view}"] = violations
        told = [f"{view}: {one}" for view, every in found.items() for one in every]
        self.assertEqual(told, [], "\n" + "\n".join(told))

    def test_at_320_pixels_nothing_is_lost(self) -> None:
        page = self.enter(NARROW)
        wide = {view: page.evaluate(WIDER) for view in self.views(page)}
        told = [f"{view}: {px} px too wide" for view, px in wide.items() if px > 0]
        self.assertEqual(told, [], "\n" + "\n".join(told))
