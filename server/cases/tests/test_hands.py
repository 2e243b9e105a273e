"""Hands in the log: tests of the whole vehicle, figures, passes, and entries that must never spoil a case."""

from workshop.tests.people import WorkshopTestCase, vehicle_data


class Hands(WorkshopTestCase):
    """A van with an open case."""

    def assessment(self) -> dict:
        """Return how the case is judged."""
        answer = self.client.get(f"/api/cases/{self.case.id}/assessment")
        self.assertEqual(answer.status_code, 200)
        return answer.json()

    def test_a_test_of_the_whole_vehicle(self) -> None:
        """It stands at no hub, in the driver's own words, and moves every hub of a side."""
        before = self.assessment()["hubs"]["A2L"]["bearing_fault"]
        logged = self.observe("", "load_test", {"answer": "right"}).json()
        self.assertEqual((logged["hub"], logged["words"]), ("", "it swells in right-hand bends"))
        hubs = self.assessment()["hubs"]
        self.assertGreater(hubs["A2L"]["bearing_fault"], before)
        self.assertLess(hubs["A2R"]["bearing_fault"], before)
        said = self.observe("", "complaint", {"words": ["howl", "warm"]}).json()
        self.assertEqual(said["words"], "growl, hum, howl, whine or roar; warm hub or smell")

    def test_figures_and_their_instrument_are_kept(self) -> None:
        """A digital gauge's readings keep its name; a thermometer's figures are read against the mate."""
        value = {"readings_mm": [0.2, 0.21, 0.2], "resolution_mm": 0.01, "instrument": "digital gauge"}
        logged = self.observe("A1L", "end_play", value).json()
        self.assertEqual(logged["value"]["instrument"], "digital gauge")
        self.assertAlmostEqual(logged["mean_mm"], 0.203, places=3)
        warm = self.observe("A1R", "heat", {"temp_c": 40, "mate_c": 21}).json()
        self.assertEqual(warm["words"], "warmer than its mate")

    def test_passes_are_answers(self) -> None:
        """Not done is logged in words, is not asked for again, and moves nothing; a recording can be passed on too."""
        first = self.assessment()
        following = first["next_test"]
        logged = self.observe(following["hub"] or "", following["test"], {"answer": "not_done"}).json()
        self.assertEqual(logged["words"], "not done")
        self.assertEqual(self.observe("A1L", "fault_lines", {"answer": "not_done"}).status_code, 201)
        then = self.assessment()
        self.assertNotEqual(
            (then["next_test"]["test"], then["next_test"]["hub"]), (following["test"], following["hub"])
        )
        self.assertEqual(then["nothing_wrong"], first["nothing_wrong"])

    def test_no_entry_spoils_the_case(self) -> None:
        """What the core cannot read is refused at the door; what it takes, it can weigh, and the case still opens."""
        for hub, kind, value in (
            ("A1L", "spin", {"answer": "rumbles", "how": "one_person"}), ("A1L", "end_play", {"readings_mm": 0.2}),
            ("", "complaint", {"words": 7}), ("A1L", "heat", {"temp_c": "hot"}), ("A1L", "spin", {"answer": ["free"]}),
            ("A1L", "rock", {"hands": 3, "answer": "hub"}), ("", "load_test", {"answer": "uphill"}),
        ):  # fmt: skip
            with self.subTest(kind, value=value):
                self.assertIn(self.observe(hub, kind, value).status_code, (201, 422))
                self.assessment()

    def test_what_can_be_tested_where(self) -> None:
        """The assessment lists the tests of every hub and of the vehicle: no grease cap on a car, no gear behind."""
        tests = self.assessment()["tests"]
        self.assertIn("complaint", tests[""])
        self.assertIn("in_gear", tests["A1L"])
        self.assertNotIn("in_gear", tests["A2L"])
        self.assertNotIn("cap_button", tests["A1L"])
        self.assertNotIn("opened", tests["A1L"])  # a sealed unit

    def test_history_shifts_what_is_likely(self) -> None:
        """Years and duty are kept with the vehicle and heard by the weighing; an unknown duty is refused."""
        young = self.assessment()["hubs"]["A1L"]["mechanisms"]
        data = vehicle_data() | {"age_years": 20, "distance_km": 300_000, "duty": ["water"]}
        path = f"vehicles/{self.vehicle.id}"
        saved = self.send(path, data | {"revision": 1}, method="put")
        self.assertEqual((saved.status_code, saved.json()["duty"]), (200, ["water"]))
        old = self.assessment()["hubs"]["A1L"]["mechanisms"]
        self.assertGreater(old["dry_or_dirty"], young["dry_or_dirty"])
        refused = self.send(path, data | {"duty": ["flying"], "revision": 2}, method="put")
        self.assertEqual(refused.status_code, 422)
        self.assertIn("flying", refused.json()["message"])

    def test_the_neighbour_sees_and_logs_nothing(self) -> None:
        """Another workshop gets neither the tests nor a word into the log."""
        self.assertEqual(self.neighbour.get(f"/api/cases/{self.case.id}/assessment").status_code, 404)
