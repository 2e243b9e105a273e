"""The torque book, the stop-gap for a bolt of unknown torque, and which ticks hold when it is decided anew."""

import itertools
import unittest

from hematite.assembly import library
from hematite.bundles import vehicle_from_json
from hematite.bundles.writing import vehicle_to_json
from hematite.errors import HematiteError
from hematite.fastenings import Fastening, kinds, read_fastenings
from hematite.jobs import HubJob, Tick, ladder, plan, plan_json, standing, torque_json
from hematite.tables import table
from hematite.tightening import proof_load_kn, star_order, stop_gap
from hematite.vehicles import Axle, Hub, Vehicle

from tests.job_space import vehicle

# Proof loads in kN [published: ISO 898-1:2013, table 4 (8.8, 10.9), coarse threads; from memory].
PROOF_KN = {
    ("M6", "8.8"): 11.6,
    ("M8", "8.8"): 21.2,
    ("M10", "8.8"): 33.7,
    ("M12", "8.8"): 48.9,
    ("M16", "8.8"): 91.0,
    ("M20", "8.8"): 147.0,
    ("M10", "10.9"): 48.1,
    ("M12", "10.9"): 70.0,
}


class Book(unittest.TestCase):
    """What is known of a vehicle's fastenings."""

    def test_a_range_is_aimed_at_its_middle(self) -> None:
        """47 to 58 N·m: 52.5; one figure is itself; none is none."""
        book = read_fastenings(
            {
                "flange_bolts": {
                    "least_nm": 47,
                    "most_nm": 58,
                    "source": "manual",
                    "page": "p. 12",
                    "on": "2026-03-01",
                },
                "wheel_nut": {"most_nm": 110},
                "axle_nut": {"socket_mm": 32, "thread": "m24 x 1.5", "slots": 6, "one_time": True},
            }
        )
        self.assertEqual([book[key].aim_nm for key in ("flange_bolts", "wheel_nut", "axle_nut")], [52.5, 110.0, None])
        self.assertEqual(book["flange_bolts"].source_words, "the manual, p. 12, 2026-03-01")
        self.assertEqual((book["axle_nut"].thread, book["wheel_nut"].source_words), ("M24×1.5", "no source given"))

    def test_what_cannot_be_is_refused(self) -> None:
        """Text, a negative, too much, a swapped range, no thread, no date, nobody's torque."""
        for key, row in (
            ("wheel_nut", {"least_nm": "tight"}),
            ("wheel_nut", {"least_nm": -5}),
            ("wheel_nut", {"least_nm": float("nan")}),
            ("wheel_nut", {"least_nm": 9000}),
            ("wheel_nut", {"least_nm": 60, "most_nm": 50}),
            ("wheel_nut", {"thread": "coarse"}),
            ("wheel_nut", {"on": "last May"}),
            ("wheel_nut", {"source": "a friend"}),
            ("wheel_nut", {"socket_mm": 1}),
            ("wheel_nut", {"one_time": "perhaps"}),
            ("wheel_nut", {"slots": 2.5}),
            ("wheel_nut", {"slots": 400}),
            ("moon_bolt", {}),
            ("wheel_nut", 90),
        ):
            self.assertRaises(HematiteError, read_fastenings, {key: row})

    def test_in_the_case_format(self) -> None:
        """Fittings, torques, designations and seal sizes are read; nonsense is refused."""
        hub = {
            "id": "A1L",
            "side": "left",
            "design": "hub_unit",
            "fittings": {"brake": "drum"},
            "fastenings": {"wheel_nut": {"least_nm": 110}},
            "bearings": [{"row": "row", "designation": "6205"}],
            "seal": {"shaft_mm": 30, "housing_mm": 47, "width_mm": 7},
        }
        read = vehicle_from_json({"axles": [{"hubs": [hub]}]}).hub("A1L")
        assert read is not None
        self.assertEqual((read.fittings, read.fastenings["wheel_nut"].aim_nm), ({"brake": "drum"}, 110.0))
        self.assertEqual((read.designations, read.seal_mm), ({"row": "6205"}, (30, 47, 7)))
        again = vehicle_from_json(vehicle_to_json(Vehicle((Axle((read,)),)))).hub("A1L")
        assert again is not None
        self.assertEqual(
            (again.fittings, again.fastenings, again.designations), (read.fittings, read.fastenings, read.designations)
        )
        for wrong in ({"brake": "anchor"}, {"sails": "two"}):
            self.assertRaises(HematiteError, vehicle_from_json, {"axles": [{"hubs": [hub | {"fittings": wrong}]}]})

    def test_seen_elsewhere_is_never_its_own(self) -> None:
        """A figure that was seen on one vehicle is shown as that; the figure to set is empty until the book has one."""
        shown = torque_json("axle_nut", [Hub("A1L", "left", "hub_unit")])
        self.assertEqual((shown["aim_nm"], shown["source"], shown["stop_gap"]), (None, "", None))
        self.assertIn({"nm": [328.0], "of": "a car’s hub unit"}, shown["seen"])
        self.assertEqual({seen.nm[0] for seen in kinds()["unit_bolts"].seen}, {99.0, 75.0})


class StopGaps(unittest.TestCase):
    """For a bolt of unknown torque."""

    def test_proof_loads_against_the_standard(self) -> None:
        """ISO 898-1's own table, within the rounding of its three figures."""
        for (thread, grade), kn in PROOF_KN.items():
            self.assertAlmostEqual(proof_load_kn(thread, grade) / kn, 1.0, delta=0.007, msg=thread)

    def test_a_range_that_says_what_it_assumes(self) -> None:
        """M10 8.8: about 40 to 50 N·m (Shigley's T = K·d·F, three quarters of the proof load); never for a wheel."""
        gap = stop_gap("M10", "8.8")
        self.assertTrue(40 <= gap.least_nm < gap.most_nm <= 51, gap)
        self.assertIn("lightly oiled", gap.assumes)
        self.assertIn("ISO 898-1", gap.source)
        for thread, grade in (("M99", "8.8"), ("M11", "8.8"), ("M10", "10.8"), ("W3/8", "8.8")):
            self.assertRaises(HematiteError, stop_gap, thread, grade)
        book = {
            "unit_bolts": Fastening("unit_bolts", thread="M12×1.5", grade="10.9"),
            "axle_nut": Fastening("axle_nut", thread="M24×1.5", grade="8.8"),
        }
        hub = Hub("A1L", "left", "hub_unit", fastenings=book)
        self.assertIsNotNone(torque_json("unit_bolts", [hub])["stop_gap"])
        self.assertIsNone(torque_json("axle_nut", [hub])["stop_gap"])


class Stars(unittest.TestCase):
    """The order of nuts."""

    def test_every_count(self) -> None:
        """Each nut once; across from the first; to a neighbour only where there is nothing else, as with four."""
        for nuts in range(3, 17):
            order = star_order(nuts)
            self.assertEqual(sorted(order), list(range(nuts)))
            apart = [min((b - a) % nuts, (a - b) % nuts) for a, b in itertools.pairwise(order)]
            self.assertEqual(apart[0], nuts // 2)
            self.assertTrue(nuts <= 4 or min(apart) > 1, order)
        self.assertEqual((star_order(4), star_order(5)), ((0, 2, 1, 3), (0, 2, 4, 1, 3)))
        for wrong in (2, 17, "five"):
            self.assertRaises(HematiteError, star_order, wrong)


class Ladders(unittest.TestCase):
    """It will not move."""

    def test_every_part_that_holds_has_a_ladder(self) -> None:
        """Every rung is used and every ladder rises to something that ends it; rust is soaked before it is struck."""
        used = set()
        for part in library().values():
            if part.stuck:
                rungs = ladder(part)
                self.assertTrue(rungs, part.key)
                used |= {rung.key for rung in rungs}
                self.assertTrue(all(rung.stop for rung in rungs))
                if "soak" in {rung.key for rung in rungs}:
                    self.assertLess([r.key for r in rungs].index("soak"), 2, part.key)
        self.assertEqual(used, set(table("jobs/ladder.toml")["rung"]))
        unit = [rung.key for rung in ladder(library()["unit"])]
        self.assertEqual(
            unit,
            [
                "soak",
                "soft_hammer",
                "turn_in_seat",
                "slide_hammer",
                "heavy_hammer",
                "air_chisel",
                "heat",
                "knuckle_off",
            ],
        )

    def test_an_unknown_rung(self) -> None:
        """Is refused; one at a part that the hub has not any more changes nothing."""
        what = vehicle("hub_unit", kind="powered", driven=False, steered=False, said={})
        self.assertRaises(HematiteError, plan, what, [HubJob("A1L", "replace_unit", freed={"A1L.unit.off": "pray"})])
        for id in ("A1L.drum.off", "A1R.unit.off", "nonsense"):
            self.assertTrue(plan(what, [HubJob("A1L", "replace_unit", freed={id: "soak"})]).steps)


class Ticks(unittest.TestCase):
    """A new decision keeps what still holds."""

    def test_off_stays_off_and_on_is_on_again(self) -> None:
        """What is off is still off; what went back is taken off anew; what was proven is proven anew."""
        log = [
            Tick("lift.off", True, 1),
            Tick("A1L.cap.off", True, 2),
            Tick("A1L.pin.off", True, 3),
            Tick("A1L.look", True, 4),
        ]
        self.assertEqual(standing(log, {"A1L": 5}), {"lift.off", "A1L.cap.off", "A1L.pin.off", "A1L.look"})
        closed = [*log, Tick("A1L.cap.on", True, 6), Tick("pedal", True, 7)]
        self.assertEqual(standing(closed, {"A1L": 5}), {tick.step for tick in closed})
        self.assertEqual(standing(closed, {"A1L": 8}), {"lift.off", "A1L.pin.off"})
        down = [*closed, Tick("lift.on", True, 8)]
        self.assertNotIn("lift.off", standing(down, {"A1R": 9}))
        self.assertIn("A1L.cap.off", standing(down, {"A1R": 9}))

    def test_a_tick_taken_back(self) -> None:
        """The latest counts."""
        self.assertEqual(standing([Tick("A1L.cap.off", True, 1), Tick("A1L.cap.off", False, 2)], {}), frozenset())


class Printed(unittest.TestCase):
    """As JSON."""

    def test_a_plan_says_what_it_assumed(self) -> None:
        """Each question with its answers; answered, it is asked no more."""
        what = vehicle("taper_castle", kind="trailer", driven=False, steered=False, said={})
        shown = plan_json(plan(what, [HubJob("A1L", "repack")]), what, [HubJob("A1L", "repack")])
        asked = {row["key"]: [o["key"] for o in row["options"]] for row in shown["assumed"]["A1L"]}
        self.assertEqual(
            asked,
            {
                "brake": ["disc", "drum", "none"],
                "wheel_spacer": ["yes", "no"],
                "castle": ["nut", "retainer"],
                "lip": ["single", "multi"],
            },
        )
