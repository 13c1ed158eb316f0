"""The String stage through the real interface: shelf, roof, arrangement, faults, the bench."""

from __future__ import annotations

import re
import tempfile
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path

from playwright.sync_api import Locator, Page, expect

from core.equipment import catalogue
from core.equipment.catalogue_csv import as_csv, columns, flat
from journeys.begin import asked
from journeys.browser import BrowserCase, keep_reading
from journeys.chromium import DESK, HAND
from server.demo.load import WRITTEN_ON, days_on, load

MODULE = catalogue.module("ostrel-430")
ROWS = 10_000
# Ten thousand rows, on a machine that is busy with other browsers.
SLOW_MS = 120_000
# When the demo's string A was read, on the clock of the browser.
STRING_A_READ_AT = "T11:29"


class StringStage(BrowserCase):
    def setUp(self) -> None:
        load()

    def enter(self, size: dict[str, int] = DESK) -> Page:
        page = self.open(size)
        page.get_by_role("button", name="Enter the demo").click()
        expect(page.locator(".day")).to_have_count(7)
        return page

    def string(self, page: Page, job: str) -> None:
        page.goto(self.live_server_url)
        page.get_by_text(job).click()
        page.wait_for_url(re.compile("/jobs/"))
        page.goto(re.sub(r"/\w+$", "/string", page.url))
        expect(page.get_by_role("heading", name="String", exact=True)).to_be_visible()

    def face(self, page: Page, name: str) -> None:
        page.get_by_role("tab", name=name).click()

    def cell(self, page: Page, plane: str, row: int, column: int) -> Locator:
        return page.get_by_role("gridcell", name=f"{plane} row {row} number {column},")

    def test_strings_are_painted_by_touch_drag_and_keys(self) -> None:
        page = self.enter()
        self.string(page, "Lantern House")
        self.face(page, "roof")
        self.cell(page, "Seafront", 2, 1).click()
        chosen = page.get_by_role("radio", name=re.compile("^A"))
        expect(chosen).to_contain_text("10 of 10")
        page.get_by_role("button", name="Empty A").click()
        expect(self.cell(page, "Seafront", 1, 1)).to_have_accessible_name(re.compile("free"))
        for column in (1, 2, 3, 4):
            box = self.cell(page, "Seafront", 1, column).bounding_box()
            assert box is not None
            page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
            if column == 1:
                page.mouse.down()
        page.mouse.up()
        expect(chosen).to_contain_text("4 of 4")
        expect(self.cell(page, "Seafront", 1, 4)).to_contain_text("+")
        self.cell(page, "Seafront", 1, 4).focus()
        page.keyboard.press("ArrowRight")
        page.keyboard.press("Space")
        expect(chosen).to_contain_text("5 of 5")
        page.get_by_role("button", name="Turn A round").click()
        expect(self.cell(page, "Seafront", 1, 5)).to_contain_text("−")
        # A module of the other plane: the string would look two ways.
        self.cell(page, "Lane side", 1, 1).click()
        expect(page.get_by_text("One series string over Seafront and Lane side")).to_be_visible()
        page.get_by_role("radio", name="gap").click()
        self.cell(page, "Seafront", 2, 6).click()
        expect(self.cell(page, "Seafront", 2, 6)).to_have_accessible_name(re.compile("free"))
        size = page.get_by_role("region", name="Plane Seafront").get_by_label("Rows × columns")
        size.fill("two by six")
        expect(page.get_by_text("Kept: 2 × 6")).to_be_visible()
        size.fill("3x7")
        size.press("Enter")
        expect(self.cell(page, "Seafront", 3, 7)).to_be_visible()

    def test_planes_and_strings_by_hand_with_a_thumb(self) -> None:
        page = self.enter(HAND)
        self.string(page, "Lantern House")
        self.face(page, "roof")
        adding = page.get_by_role("form", name="Add a plane")
        for label, text in (("Name", "Shed"), ("Tilt", "95"), ("Facing", "180")):
            adding.get_by_label(label).fill(text)
        adding.get_by_role("button", name="Add").tap()
        expect(adding.get_by_role("alert")).to_contain_text("0 to 90")
        adding.get_by_label("Tilt").fill("10°")
        adding.get_by_role("button", name="Add").tap()
        shed = page.get_by_role("region", name="Plane Shed")
        expect(shed.get_by_label("Tilt")).to_have_value("10°")
        shed.get_by_label("Rows × columns").fill("1 x 6")
        shed.get_by_label("Rows × columns").press("Enter")
        page.get_by_role("button", name="Add a string").tap()
        page.get_by_role("radio", name=re.compile("^C")).tap()
        # On a slow link every touch still builds on the one before it.
        link = page.context.new_cdp_session(page)
        slow = {"offline": False, "latency": 300, "downloadThroughput": -1, "uploadThroughput": -1}
        link.send("Network.emulateNetworkConditions", slow)
        for column in range(1, 7):
            self.cell(page, "Shed", 1, column).tap()
        expect(page.get_by_role("radio", name=re.compile("^C"))).to_contain_text("6 of 6")
        page.get_by_role("region", name="Plane Seafront").get_by_role("button", name="Remove").tap()
        expect(page.get_by_role("alert")).to_contain_text("carries string A")
        page.get_by_role("button", name="Change the plan").tap()
        drawer = page.get_by_role("dialog")
        drawer.get_by_role("combobox", name="Tracker of string C").click()
        page.locator(".ant-select-item-option", has_text="2").last.click()
        drawer.get_by_role("button", name="Close").tap()
        self.face(page, "volts")
        page.get_by_role("button", name=re.compile("^String C")).tap()
        expect(page.get_by_text("The strings on this tracker differ")).to_be_visible()
        self.face(page, "roof")
        page.get_by_role("radio", name=re.compile("^B")).tap()
        page.get_by_role("button", name="Remove B").tap()
        self.face(page, "volts")
        expect(page.get_by_text("Read earlier, no longer asked for")).to_be_visible()
        expect(page.get_by_text("B · open circuit: 332.3 V")).to_be_visible()

    def test_an_arrangement_is_proposed_explained_and_taken(self) -> None:
        page = self.enter()
        self.string(page, "Gull Terrace 2")
        expect(page.get_by_text("String A stays unplugged")).to_be_visible()
        self.face(page, "arrange")
        expect(page.get_by_text("12 modules are more than 1 inputs take")).to_be_visible()
        expect(page.get_by_text("What would free it")).to_be_visible()
        page.get_by_label("Back, modules").fill("ten")
        expect(page.get_by_role("alert")).to_contain_text("is not a number")
        page.get_by_label("Back, modules").fill("12")
        # The shelf has a newer sheet of this inverter, with a second input: offered, not taken.
        page.get_by_role("button", name="Change the plan").click()
        offer = page.locator(".offer")
        expect(offer).to_contain_text("trackers.1.inputs 1 → 2")
        offer.get_by_role("button", name="Judge by the newer sheet").click()
        expect(offer).to_have_count(0)
        page.get_by_role("button", name="Close").click()
        best = page.locator(".arrangement").first
        expect(best).to_contain_text("All 12 modules")
        best.get_by_role("button", name="Take this one").click()
        expect(page.get_by_role("radio", name=re.compile("^B"))).to_contain_text("6 of 6")
        self.face(page, "volts")
        expect(
            page.get_by_text("6 leaves 229 V of room on the coldest morning").first
        ).to_be_visible()

    def test_the_ends_of_a_string_are_logged_as_they_are_made(self) -> None:
        page = self.enter(HAND)
        self.string(page, "Lantern House")
        self.face(page, "ends")
        page.get_by_label("Plugs of the strings").fill("Tarn")
        page.locator(".ant-select-item-option", has_text="Tarn P4").first.click()
        expect(page.get_by_text("Crimp with Tarn C-46, die 4-6.")).to_be_visible()
        for end in ("roof plus", "inverter plus", "roof minus"):
            page.get_by_role("button", name=re.compile(f"^{end}")).click()
            bench = page.get_by_role("region", name=f"A {end}")
            for answer in ("right pin", "crimped", "tight", "it holds"):
                bench.get_by_role("button", name=answer, exact=True).click()
                if answer != "it holds":
                    pressed = bench.get_by_role("button", name=answer, exact=True, pressed=True)
                    expect(pressed).to_be_visible()
            made = page.get_by_role("button", name=re.compile(f"^{end} made"))
            expect(made).to_be_visible()
        self.face(page, "volts")
        expect(
            page.get_by_text("A inverter minus, pin (12 of 16 steps done)").first
        ).to_be_visible()

    def test_a_fault_to_earth_is_found_and_shown_on_the_string(self) -> None:
        page = self.enter()
        self.string(page, "Lantern House")
        page.get_by_role("button", name=re.compile("more, only when needed")).click()
        for title, volts in (("A · plus to earth", "274,6"), ("A · minus to earth", "−152.6")):
            page.get_by_role("button", name=re.compile(title)).click()
            taking = page.get_by_role("region", name=title)
            expect(taking).to_contain_text("both poles parted")
            taking.get_by_label("Read at").or_(taking.get_by_text("it was earlier")).first.click()
            beside = (WRITTEN_ON + days_on(datetime.now(UTC))).isoformat() + STRING_A_READ_AT
            # To earth and between the poles count together only when read in the same minutes.
            taking.get_by_label("Read at").fill(beside)
            keep_reading(taking.get_by_role("textbox", name=title), volts)
        picture = page.get_by_role("img", name=re.compile("Fault to earth near module 4 and 5"))
        expect(picture).to_be_visible()
        expect(page.get_by_text("on Seafront row 1 number 4")).to_be_visible()
        expect(
            page.get_by_text(re.compile("String A stays unplugged. .*A fault to earth"))
        ).to_be_visible()

    def test_optimisers_are_counted_with_a_voltmeter(self) -> None:
        page = self.enter()
        self.string(page, "Sail Loft")
        expect(page.get_by_text("6.9 V counts 7 of 8").first).to_be_visible()
        page.get_by_role("button", name=re.compile("^B · safety voltage")).click()
        page.get_by_role("button", name="read again").click()
        field = page.get_by_role("textbox", name="B · safety voltage")
        field.fill("8,1")
        expect(page.get_by_text("8.1 V counts 8 optimisers, as planned")).to_be_visible()
        field.press("Enter")
        expect(page.get_by_text("String B stays unplugged. Still to come")).to_be_visible()

    def test_the_rules_are_chosen_and_a_figure_is_replaced_with_its_reason(self) -> None:
        page = self.enter()
        self.string(page, "Lantern House")
        page.get_by_role("button", name="Change the plan").click()
        drawer = page.get_by_role("dialog")
        drawer.get_by_role("combobox", name="Rule pack").click()
        page.locator(".ant-select-item-option", has_text="United Kingdom").click()
        expect(page.get_by_text("11 leaves 105 V of room").first).to_be_visible()
        drawer.get_by_text("Replace a figure for this job").click()
        drawer.get_by_role("combobox", name="Figure").fill("flat factor")
        page.locator(".ant-select-item-option", has_text="Flat factor").click()
        drawer.get_by_label("Instead").fill("9")
        drawer.get_by_label("Why; it is printed").fill("Very cold loft")
        drawer.get_by_role("button", name="Replace it").click()
        expect(drawer.get_by_role("alert")).to_contain_text("outside")
        drawer.get_by_label("Instead").fill("1,25")
        drawer.get_by_role("button", name="Replace it").click()
        expect(drawer.locator(".replaced")).to_contain_text("1.15 → 1.25, Very cold loft")
        expect(page.get_by_text("11 leaves 62 V of room").first).to_be_visible()
        rows = "\n".join(f"2019-{1 + n // 730:02}-01T00:00;{n % 50 - 14},0" for n in range(8760))
        weather = ("time;temperature\n" + rows).encode()
        self.give(drawer.get_by_label("Weather file"), "sea.csv", weather)
        expect(drawer.get_by_text("8760 hours, 0 missing")).to_be_visible()
        drawer.get_by_role("button", name="Take these two").click()
        expect(drawer.get_by_label("Coldest", exact=True)).to_have_value(re.compile("−14"))
        source = drawer.get_by_label("Where these come from")
        expect(source).to_have_value(
            re.compile("sea.csv, 2019, 8760 hours, 0 missing; coldest hour")
        )

    def give(self, field: Locator, name: str, raw: bytes) -> None:
        field.set_input_files([{"name": name, "mimeType": "text/csv", "buffer": raw}])

    def test_the_shelf_by_hand_and_by_file(self) -> None:
        page = self.enter()
        page.get_by_role("link", name="shelf").click()
        page.get_by_role("button", name="New sheet").click()
        form = page.get_by_role("form", name="New sheet")
        for name, text in flat(MODULE).items():
            if name not in ("bifacial", "serials_kept", "checked_by"):
                form.get_by_title(re.compile(f"^{name}:")).fill(text)
        form.get_by_label("Model").fill("Os 430 new")
        form.get_by_label("Name on this shelf").fill("ostrel-430-new")
        form.get_by_label("Voc by temperature").fill("-0,0978")
        form.get_by_role("button", name="Keep this sheet").click()
        expect(form.get_by_role("alert")).to_contain_text("looks like a figure in V/K")
        form.get_by_role("button", name="take -0.2501").click()
        form.get_by_role("button", name="Keep this sheet").click()
        made = page.get_by_role("button", name=re.compile("Os 430 new"))
        expect(made).to_contain_text("checked by Ada Fenn")
        names = [column.name for column in columns("modules")]
        many = as_csv(names, [replace(MODULE, id=f"m{n}", model=f"Row {n}") for n in range(ROWS)])
        broken = many.replace("m9999,", "m9999;,", 1).replace("39.1", "391", 1)
        files = page.get_by_label("Sheets file")
        with tempfile.TemporaryDirectory() as folder:
            for name, text in (("broken.csv", broken), ("many.csv", many)):
                Path(folder, name).write_text(text, encoding="utf-8")
            files.set_input_files(Path(folder, "broken.csv"))
            expect(page.get_by_role("alert")).to_contain_text("row 2, voc_v", timeout=SLOW_MS)
            expect(page.get_by_role("alert")).to_contain_text("Nothing was taken in")
            files.set_input_files(Path(folder, "many.csv"))
            expect(page.get_by_role("progressbar")).to_be_visible()
            told = page.get_by_text("10000 sheets are on the shelf")
            expect(told).to_be_visible(timeout=SLOW_MS)
        page.get_by_label("Find a sheet").fill("Row 9999")
        expect(page.locator(".sheets li")).to_have_count(1)
        with page.expect_download() as template:
            page.get_by_role("link", name="CSV to fill in").click()
        self.assertIn("voc_v", Path(template.value.path()).read_text(encoding="utf-8"))

    def test_a_change_of_the_plan_is_undone_and_made_again(self) -> None:
        page = self.enter(HAND)
        self.string(page, "Lantern House")
        page.get_by_role("button", name="Change the plan").click()
        field = page.get_by_label("Coldest", exact=True)
        field.fill("-14")
        field.press("Enter")
        page.get_by_role("button", name="Close", exact=True).click()
        air = page.get_by_text("air −14 °C to").first
        expect(air).to_be_visible()
        page.get_by_role("button", name="undo", exact=True).click()
        changes = page.get_by_role("dialog", name="Changes of the plan")
        expect(changes).to_contain_text("coldest air −9 °C → −14 °C")
        changes.get_by_role("button", name="Undo", exact=True).click()
        expect(changes).to_contain_text("undone since")
        changes.get_by_role("button", name="Close").click()
        expect(air).to_have_count(0)
        page.get_by_role("button", name="undo", exact=True).click()
        changes.get_by_role("button", name="Make it again").click()
        changes.get_by_role("button", name="Close").click()
        expect(air).to_be_visible()

    def test_a_rule_pack_of_ones_own(self) -> None:
        page = self.enter()
        page.get_by_role("link", name="shelf").click()
        page.get_by_role("tab", name="Rule packs").click()
        expect(page.get_by_text("Tinned copper, class 5")).to_be_visible()
        form = page.get_by_role("form", name="A rule pack of your own")
        for label, text in (
            ("Short name", "our-island"),
            ("Name", "Our island"),
            ("Edition", "Note 4"),
        ):
            form.get_by_label(label, exact=label == "Name").fill(text)
        form.get_by_role("combobox", name="Figure").fill("Flat factor")
        page.locator(".ant-select-item-option", has_text="Flat factor").click()
        form.get_by_label("Instead").fill("1.2")
        form.get_by_label("Why; it is printed").fill("Salt and wind")
        form.get_by_role("button", name="Replace it").click()
        form.get_by_role("button", name="Keep this pack").click()
        expect(page.get_by_role("tab", name="Rule packs")).to_contain_text("6")
        self.string(page, "Lantern House")
        page.get_by_role("button", name="Change the plan").click()
        page.get_by_role("dialog").get_by_role("combobox", name="Rule pack").click()
        page.locator(".ant-select-item-option", has_text="Our island").click()
        expect(page.locator(".replaced")).to_contain_text("Salt and wind")

    def test_the_bench_in_the_hand_and_on_into_a_job(self) -> None:
        page = self.enter(HAND)
        page.get_by_role("link", name="bench").tap()
        for label, choice in (("Module", "Ostrel Os 430"), ("Inverter", "Veyrick Five")):
            page.get_by_role("combobox", name=label).click()
            page.locator(".ant-select-item-option", has_text=choice).first.click()
        page.get_by_label("Modules in series").fill("11")
        expect(page.get_by_text("11 leaves 132 V of room")).to_be_visible()
        page.get_by_label("Irradiance").fill("0,64 kW/m²")
        page.get_by_label("Back of a module").fill("31")
        page.get_by_label("Open-circuit voltage read").fill("lots")
        expect(page.get_by_role("alert")).to_contain_text("is not a number")
        page.get_by_label("Open-circuit voltage read").fill("376")
        expect(page.get_by_text("1 module not in the string")).to_be_visible()
        page.get_by_role("button", name="Begin a job with this").click()
        asked(page, "What is the job called?")
        page.get_by_role("textbox", name="What is the job called?").fill("Bench End")
        page.keyboard.press("Enter")
        asked(page, "Where does the house stand?")
        page.get_by_role("textbox", name="Where does the house stand?").fill("54°12'N 0°36'E")
        page.get_by_role("list", name="Places found").get_by_role("button").first.click()
        # Everything else lay on the bench.
        page.get_by_role("button", name="Begin the job now").click()
        ask = page.locator("[id='ask-open_circuit/A']")
        expect(ask).to_contain_text("376 V")
        expect(ask).to_contain_text("stop")
