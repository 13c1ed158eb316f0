"""Talk through the real interface: meter and board, a gateway with a silent unit, rungs."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from devices.simulated.gateway import Listed, Roster, SimulatedGateway
from devices.simulated.inverter import answering
from devices.simulated.meter import MeterOrder, SimulatedMeter, Switched
from devices.simulated.portal import Portal
from devices.tests.test_meter_and_portal import listening
from journeys.browser import BrowserCase, keep_reading
from journeys.chromium import DESK, HAND
from server.demo.load import load
from server.jobs.models import JobRow
from server.jobs.stored import load as load_job

# Serials of the cells in which anything was drawn anew.
WATCH_CELLS = """() => {
  window.changed = [];
  const seen = (all) => all.forEach((one) => {
    const cell = (one.target.closest ? one.target : one.target.parentElement).closest('.unit-now');
    const serial = cell && cell.dataset.serial;
    if (serial && !window.changed.includes(serial)) window.changed.push(serial);
  });
  new MutationObserver(seen).observe(document.querySelector('.units-now'),
    { subtree: true, childList: true, characterData: true, attributes: true });
}"""


class Talking(BrowserCase):
    def setUp(self) -> None:
        load()

    def stage(self, size: dict[str, int], job: str, face: str) -> Page:
        return self.stage_of(size, job, "talk", face)

    def wall_hybrid(self, size: dict[str, int]) -> None:
        """A board first, a function that finds no port, a meter read for each load."""
        page = self.stage(size, "Lantern House", "ports")
        chips = page.get_by_role("region", name="What goes on a port")
        chips.get_by_role("button", name="one more function").click()
        new = page.locator("form.wire-panel").first
        new.get_by_label("Name").fill("Store")
        new.get_by_role("combobox", name="Function").click()
        page.locator(".ant-select-dropdown:visible").get_by_title(
            "battery data", exact=True
        ).click()
        new.get_by_role("button", name="Keep").click()
        expect(chips.locator(".offer-not")).to_contain_text("Never together")
        # By keys: the function is held, the port takes it, and two that exclude each other stop.
        chips.get_by_role("button", name=re.compile("^Store")).press("Enter")
        housing = page.get_by_role("region", name="Inverter, seen from below")
        port = housing.get_by_role("button", name=re.compile("^COM 1"))
        expect(port).to_have_class(re.compile("port-fits"))
        port.press("Enter")
        open_port = page.get_by_role("region", name="Inverter · COM 1")
        expect(open_port).to_contain_text("never go together")
        page.locator("form.wire-panel", has_text="Store").get_by_role(
            "button", name="not wanted"
        ).click()
        expect(chips).to_contain_text("All 3 fit")
        pins = re.compile("pin 1: meter A white, pin 2: meter B brown")
        expect(open_port.get_by_role("img", name=pins)).to_be_visible()
        page.get_by_role("tab", name="site").click()
        clock = [0.0]
        loads = (Switched(phase=1, watts=2000.0, from_s=10, to_s=20),
                 Switched(phase=1, watts=-1500.0, from_s=20, to_s=30))  # fmt: skip
        order = MeterOrder(format="long-noon-meter", serial="M", base_w=(400.0,), loads=loads)
        meter = page.get_by_role("region", name="Meter and clamps")
        with answering([SimulatedMeter(order, now=lambda: clock[0]).device()]) as number:
            field = meter.get_by_label("Its port")
            field.fill(str(number))
            field.press("Enter")
            for at, step in enumerate(("Nothing on", "Load on L1", "It feeds")):
                clock[0] = 10.0 * at + 5
                with page.expect_response(re.compile("/meter$")):
                    meter.get_by_role("button", name=step).click()
                expect(meter.locator(".ant-btn-loading")).to_have_count(0)
        page.get_by_role("button", name=re.compile("^Meter and export")).click()
        for title, watts in (
            ("Load on L1 · power", "2000"),
            ("The inverter feeds · power", "1500"),
        ):
            page.get_by_role("button", name=re.compile(title)).click()
            keep_reading(page.get_by_role("textbox", name=re.compile(title)), watts)
            expect(page.get_by_role("textbox", name=re.compile(title))).to_have_count(0)
            # The rail goes on by itself; it is left before the next is picked by hand.
            page.get_by_role("button", name="leave").click()
        expect(meter.get_by_text("Meter, load by load")).to_be_visible()
        expect(meter.locator(".judgement", has_text="Meter, feeding")).to_contain_text("clear")

    def test_a_hybrid_with_a_meter_and_a_board_on_the_desk(self) -> None:
        self.wall_hybrid(DESK)

    def test_a_hybrid_with_a_meter_and_a_board_in_the_hand(self) -> None:
        self.wall_hybrid(HAND)

    def gateway(self, size: dict[str, int]) -> None:
        """A gateway that lists all and hears all but one: which, where, and who is near."""
        page = self.stage(size, "Slipway Cottage", "pair")
        job = load_job(JobRow.objects.get(plan__name="Slipway Cottage").id).job
        serials = [one.text for one in job.readings if one.kind == "unit_serial"]
        units = tuple(
            Listed(serial=one, reports_after_s=1.0 if at == 2 else 0.0)
            for at, one in enumerate(serials)
        )
        late: list[bool] = []
        made = SimulatedGateway(Roster(name="GW", units=units), now=lambda: float(len(late)))
        page.get_by_label("Gateway's port").fill("1")
        page.get_by_label("Gateway's port").press("Enter")
        page.get_by_role("button", name="Look at its list").click()
        report = page.get_by_role("region", name="Gateway: what reports")
        expect(report).to_contain_text("nothing answers at its address")
        with answering(made.devices()) as number:
            field = page.get_by_label("Gateway's port")
            field.fill(str(number))
            field.press("Enter")
            page.get_by_role("button", name="Look at its list").click()
            expect(report.get_by_role("row", name=re.compile("^U3"))).to_be_visible()
            # Followed, one unit that comes up is drawn anew and the others stay as they were drawn.
            page.get_by_role("button", name="Follow it as it comes up").click()
            cells = page.locator(".unit-now")
            expect(cells).to_have_count(len(serials))
            page.evaluate(WATCH_CELLS)
            late.append(True)
            expect(page.locator(f".unit-now[data-serial={serials[2]}]")).to_contain_text("W")
            self.assertEqual(page.evaluate("window.changed"), [serials[2]])
            page.get_by_role("button", name="Follow no longer").click()
        row = report.get_by_role("row", name=re.compile("^U3"))
        expect(row).to_contain_text(serials[2])
        expect(row).to_contain_text(re.compile("U\\d+, U\\d+"))
        codes = page.get_by_role("region", name="Serials for another device")
        first = codes.locator(".code-serial").inner_text()
        codes.get_by_role("button", name="Next").click()
        expect(codes.locator(".code-serial")).not_to_have_text(first)

    def test_a_gateway_and_a_silent_unit_on_the_desk(self) -> None:
        self.gateway(DESK)

    def test_a_gateway_and_a_silent_unit_in_the_hand(self) -> None:
        self.gateway(HAND)

    def rungs(self, size: dict[str, int]) -> None:
        """Pairing waits for its part, a count is short, a rung is broken and names its mender."""
        page = self.stage(size, "Sail Loft", "ladder")
        ladder = page.get_by_role("region", name="Status row of Inverter")
        keys = ladder.get_by_role("group", name="Digits as they are read")
        for digit in "1110111":
            keys.get_by_role("button", name=digit, exact=True).click()
        expect(keys.get_by_role("button", name="7 of 8 digits")).to_be_disabled()
        keys.get_by_role("button", name="1", exact=True).click()
        keys.get_by_role("button", name="Keep 11101111").click()
        expect(ladder.locator(".broken-rung")).to_contain_text("4 · internet reached")
        expect(ladder.locator(".broken-rung")).to_contain_text("who sees to the router")
        expect(page.locator(".stage-about")).to_contain_text("Not linked at rung 4")
        page.get_by_role("tab", name="pair").click()
        page.get_by_role("button", name="Take the count now").click()
        keep_reading(page.get_by_role("textbox", name="Inverter · how many report"), "18")
        report = page.get_by_role("region", name="Inverter: what reports")
        expect(report).to_contain_text("18 report, 17 are planned")
        # The rail goes on to the next reading; it is left for another face.
        page.get_by_role("button", name="leave").click()
        page.get_by_role("tab", name="account").click()
        form = page.get_by_role("form", name="As it is entered in the portal")
        with listening(Portal(away=True)) as number:
            for label, text in (
                ("Portal", "Shoreline"), ("Owner", "Mina Tarrow"), ("Owner\'s mail", "no mail"),
                ("Power, kW", "7.57"), ("Modules", "17"),
                ("Portal\'s network address", "127.0.0.1"), ("Its port", str(number)),
            ):  # fmt: skip
                form.get_by_label(label, exact=True).fill(text)
            form.get_by_label("Tariff").focus()
            form.get_by_role("button", name="Keep").click()
            expect(form.get_by_role("alert")).to_contain_text("mail")
            form.get_by_label("Owner's mail", exact=True).fill("mina@tarrow.example")
            form.get_by_label("Tariff").focus()
            form.get_by_role("button", name="Keep").click()
            portal = page.get_by_role("region", name="Portal", exact=True)
            portal.get_by_role("button", name="See what it has heard").click()
            expect(portal.get_by_role("alert")).to_contain_text("away")

    def test_optimisers_with_their_rungs_on_the_desk(self) -> None:
        self.rungs(DESK)

    def test_optimisers_with_their_rungs_in_the_hand(self) -> None:
        self.rungs(HAND)
