"""Talk's worked cases from independent tools, and each rule against another route to its answer."""

from __future__ import annotations

from itertools import combinations, permutations, product
from pathlib import Path
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from core.rules.talk.bus import BusDevice, bus_ohm, bus_order, talk_counts
from core.rules.talk.clamps import ClampStep, clamps_read
from core.rules.talk.ports import Need, PortBlock, TalkPort, Wish, port_plan
from core.rules.talk.reporting import SeenAt, plant_kw, reporting_counts, rungs_read
from core.tests.cases import compare, load

CASES = Path(__file__).parent / "cases"


def pairs(given_pairs: list[list[str]]) -> tuple[tuple[str, ...], ...]:
    return tuple(map(tuple, given_pairs))


class Worked(TestCase):
    def case(self, case_id: str) -> dict[str, Any]:
        return next(one for one in load(CASES, "talk") if one["id"] == case_id)

    def test_ports(self) -> None:
        case = self.case("t21-o1")
        of = case["inputs"]
        plan = port_plan(
            ports=tuple(
                TalkPort(
                    id=one["id"], device=one["device"], functions=tuple(one["functions"]),
                    most=one["most"], excludes=pairs(one["excludes"]),
                )
                for one in of["ports"]
            ),
            wishes=tuple(Wish(**one) for one in of["wishes"]),
            needs=tuple(Need(function=f, needs=tuple(n)) for f, n in of["needs"].items()),
        )  # fmt: skip
        only = {one.wish: one.port for one in plan.one_port}
        for key, got in (
            ("all_wishes_fit", plan.fits),
            ("placings", plan.placings),
            ("wishes_with_one_port_only", only),
            ("ports_idle_in_every_placing", list(plan.idle_always)),
            ("idle_ports_least_and_most", [plan.idle_least, plan.idle_most]),
            ("missing_needs", list(plan.missing)),
        ):
            self.assertEqual(got, case["expected"][key], key)

    def test_bus(self) -> None:
        case = self.case("t21-o2")
        of, wanted = case["inputs"], case["expected"]
        x_m, y_m = of["logger_xy_m"]
        devices = tuple(BusDevice(**one) for one in of["inverters"])
        bus = bus_order(logger_x_m=x_m, logger_y_m=y_m, devices=devices, slack_m=of["slack_m"])
        self.assertAlmostEqual(bus.total_m, wanted["total_cable_m"], delta=0.001)
        for key, got in (
            ("best_orders", bus.orders),
            ("order_from_logger", list(bus.order)),
            ("cables", len(bus.cables_m)),
            ("inverter_bus_ports_used", bus.ports),
            ("resistor_in", list(bus.resistors)),
            ("address_wrong_at", list(bus.wrong_addresses)),
        ):
            self.assertEqual(got, wanted[key], key)
        ends = [True, *[False] * 5, True]
        for key, fitted in (
            ("ohm_both_resistors", ends),
            ("ohm_last_resistor_missing", [True, *[False] * 6]),
            (
                "ohm_a_third_resistor_in_the_second_inverter_of_the_order",
                [True, False, True, *[False] * 3, True],
            ),
        ):
            ohm = bus_ohm(
                cables_m=bus.cables_m,
                resistors=tuple(fitted),
                core_ohm_per_m=of["core_ohm_per_m"],
                end_resistor_ohm=of["end_resistor_ohm"],
                device_input_ohm=of["device_input_ohm_each"],
            )
            compare(self, case, key, ohm)

    def test_counts_and_rungs(self) -> None:
        case = self.case("t21-o3")
        of, wanted = case["inputs"], case["expected"]
        counted = [talk_counts(**one) for one in of["plants"]]
        self.assertEqual([one.pages for one in counted], wanted["pages"])
        self.assertEqual([one.loggers for one in counted], wanted["loggers"])
        self.assertEqual([one.cables for one in counted], wanted["bus_cables"])
        self.assertEqual([one.ports for one in counted], wanted["device_bus_ports"])
        judged = [
            reporting_counts(
                plan=one["plan"],
                last_min=one["last_min"],
                counts=tuple(SeenAt(at_min=m, count=n) for m, n in one["counts_min_n"]),
            )
            for one in of["series"]
        ]
        self.assertEqual([one.verdict for one in judged], wanted["report_verdicts"])
        for one, silent in zip(judged, wanted["silent"], strict=True):
            if silent:
                self.assertIn(str(silent), one.reason + " ".join(one.needs))
        powers = [plant_kw(**one).verdict for one in of["kw"]]
        self.assertEqual(powers, wanted["kw_verdicts"])
        rows = [rungs_read(digits=one, rungs=of["rungs_in_all"]) for one in of["rungs"]]
        told = [None if one is None else [one.broken, list(one.again)] for one in rows]
        self.assertEqual(told, wanted["rungs"])

    def test_clamps(self) -> None:
        case = self.case("t21-o4")
        of, wanted = case["inputs"], case["expected"]
        loads = of["known_loads_w_var_per_phase"]
        found = clamps_read(
            steps=tuple(
                ClampStep(
                    name=one["name"], add_w=tuple(one["add_w"]),
                    inverter_w=tuple(one["inverter_w"]), reading_w=tuple(one["reading_w"]),
                )
                for one in of["steps"]
            ),
            known_w=tuple(float(sum(w for w, _ in phase)) for phase in loads),
            known_var=tuple(float(sum(var for _, var in phase)) for phase in loads),
            phase_v=of["phase_volts_v"],
            angles_deg=tuple(of["phase_angles_deg"]),
            ratios=tuple(map(float, of["ratio_factors_possible"])),
            within_w=of["within_w"],
        )  # fmt: skip
        (one,) = found.explanations
        self.assertEqual(list(one.on_phase), wanted["clamp_is_on_phase"])
        self.assertEqual(list(one.reversed), wanted["arrow_reversed"])
        self.assertEqual(list(one.ratio), wanted["ratio_factor"])
        compare(self, case, "meter_sum_w_as_wired", list(found.sum_w))
        for step, right in zip(found.right_w, wanted["reading_w_if_right"], strict=True):
            for got, meant in zip(step, right, strict=True):
                self.assertAlmostEqual(got, meant, delta=0.5)


FUNCTIONS = ("meter", "battery", "bus", "dry")
PORT = st.builds(
    lambda functions, most, excludes: (functions, most, excludes),
    st.lists(st.sampled_from(FUNCTIONS), min_size=1, max_size=3, unique=True),
    st.integers(0, 2),
    st.lists(st.sampled_from(list(combinations(FUNCTIONS, 2))), max_size=1),
)


class AnotherRoute(TestCase):
    @settings(max_examples=150, deadline=None)
    @given(
        st.lists(PORT, min_size=1, max_size=4),
        st.lists(st.sampled_from(FUNCTIONS), min_size=1, max_size=5),
        st.lists(st.sampled_from(list(combinations(FUNCTIONS, 2))), max_size=1),
    )
    def test_ports_against_every_way_written_out(
        self, given_ports: list[Any], functions: list[str], shared: list[tuple[str, str]]
    ) -> None:
        ports = tuple(
            TalkPort(id=f"P{n}", device="d", functions=tuple(f), most=m, excludes=tuple(e))
            for n, (f, m, e) in enumerate(given_ports)
        )
        blocks = (PortBlock(ports=("P0", "P1"), excludes=tuple(shared)),) if shared else ()
        wishes = tuple(Wish(device="d", function=one) for one in functions)
        plan = port_plan(ports=ports, wishes=wishes, blocks=blocks)

        def ways(some: tuple[Wish, ...]) -> list[tuple[TalkPort, ...]]:
            return [way for way in product(ports, repeat=len(some)) if self.goes(some, way, blocks)]

        found = ways(wishes)
        self.assertEqual((plan.fits, plan.placings), (bool(found), len(found)))
        if found:
            idle = [len(ports) - len({p.id for p in way}) for way in found]
            self.assertEqual((plan.idle_least, plan.idle_most), (min(idle), max(idle)))
            return
        most = max(
            size
            for size in range(len(wishes) + 1)
            if any(ways(some) for some in combinations(wishes, size))
        )
        self.assertEqual(plan.most_together, most)
        for conflict in plan.conflicts:
            names = [one.partition(":")[2] for one in conflict]
            some = tuple(Wish(device="d", function=one) for one in names)
            self.assertFalse(ways(some))
            for left_out in range(len(some)):
                self.assertTrue(ways(some[:left_out] + some[left_out + 1 :]))

    def goes(
        self, wishes: tuple[Wish, ...], way: tuple[TalkPort, ...], blocks: tuple[PortBlock, ...]
    ) -> bool:
        here: dict[str, list[str]] = {}
        for wish, port in zip(wishes, way, strict=True):
            if wish.function not in port.functions:
                return False
            here.setdefault(port.id, []).append(wish.function)
        for port in set(way):
            on = here[port.id]
            if len(on) > port.most or any(a in on and b in on for a, b in port.excludes):
                return False
        for block in blocks:
            inside = [f for name in block.ports for f in here.get(name, [])]
            if any(a in inside and b in inside for a, b in block.excludes):
                return False
        return True

    @settings(max_examples=40, deadline=None)
    @given(st.lists(st.tuples(st.integers(0, 6), st.integers(0, 3)), min_size=1, max_size=6))
    def test_the_shortest_line_against_every_order(self, places: list[tuple[int, int]]) -> None:
        devices = tuple(
            BusDevice(name=f"I{n}", x_m=x, y_m=y, address=n + 1) for n, (x, y) in enumerate(places)
        )
        bus = bus_order(logger_x_m=0.0, logger_y_m=0.0, devices=devices, slack_m=0.5)

        def length(order: tuple[BusDevice, ...]) -> float:
            at, total = (0.0, 0.0), 0.0
            for one in order:
                total += abs(one.x_m - at[0]) + abs(one.y_m - at[1]) + 0.5
                at = one.x_m, one.y_m
            return total

        lengths = [length(order) for order in permutations(devices)]
        self.assertAlmostEqual(bus.total_m, min(lengths))
        best = sum(abs(one - min(lengths)) < 1e-9 for one in lengths)
        self.assertEqual(bus.orders, best)

    def test_a_turned_clamp_and_two_swapped_ones_are_told_by_their_loads(self) -> None:
        # By hand: 1 kW on L1 alone. Clamps 1 and 2 swapped: channel 2 sees that current against a
        # voltage 120° away: minus half of it.
        step = ClampStep(reading_w=(0.0, -500.0, 0.0), add_w=(1000.0, 0.0, 0.0))
        found = clamps_read(steps=(step,))
        self.assertIn((2, 1, 3), {one.on_phase for one in found.explanations})
        turned = ClampStep(reading_w=(-1000.0, 0.0, 0.0), add_w=(1000.0, 0.0, 0.0))
        ways = clamps_read(steps=(turned,)).explanations
        self.assertTrue(all(one.reversed[0] and one.on_phase[0] == 1 for one in ways))
        # The first clamp is told; of the others nothing flowed, so nothing is known of them yet.
        self.assertGreater(len(ways), 1)

    def test_a_bus_of_two_resistors_is_about_sixty_ohm(self) -> None:
        whole = {"core_ohm_per_m": 0.0, "device_input_ohm": 1e7}
        both = bus_ohm(cables_m=(10.0,), resistors=(True, True), **whole)
        one = bus_ohm(cables_m=(10.0,), resistors=(True, False), **whole)
        self.assertAlmostEqual(both, 60.0, places=2)
        self.assertAlmostEqual(one, 120.0, places=1)
