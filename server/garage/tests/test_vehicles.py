"""Vehicles of every shape, and those that cannot be."""

import uuid

from hematite.hubs import designs
from workshop.tests.people import WorkshopTestCase, hub_data, vehicle_data


class Vehicles(WorkshopTestCase):
    """Added, read, corrected."""

    def test_every_design_and_layout(self) -> None:
        """Every hub design; one, two and four wheels an axle; one to four axles."""
        for n, design in enumerate(designs()):
            answer = self.send("vehicles", vehicle_data(f"V{n}", design, axles=n % 4 + 1))
            self.assertEqual(answer.status_code, 201, answer.content)
            self.assertEqual(len(answer.json()["axles"]), n % 4 + 1)
        duals = [
            hub_data(name, side)
            for name, side in (("A2LO", "left"), ("A2LI", "left"), ("A2RI", "right"), ("A2RO", "right"))
        ]
        odd = {"label": "Odd", "axles": [{"hubs": [hub_data("A1C", "centre", "cup_cone")]}, {"hubs": duals}]}
        stored = self.send("vehicles", odd).json()
        self.assertEqual([len(axle["hubs"]) for axle in stored["axles"]], [1, 4])

    def test_orders_and_limits_follow(self) -> None:
        """A hub with a known row shows fault orders that add up to its balls, and its window of play."""
        hub = self.client.get(f"/api/vehicles/{self.vehicle.id}").json()["axles"][0]["hubs"][0]
        self.assertAlmostEqual(hub["orders"][0]["bpfo"] + hub["orders"][0]["bpfi"], 13)
        self.assertEqual((hub["window_min_mm"], hub["window_max_mm"], hub["rotating_ring"]), (0.0, 0.05, "inner"))

    def test_refusals(self) -> None:
        """Nonsense is refused in words, and nothing is stored."""
        bad_ball = hub_data("A1L", "left") | {
            "bearings": [{"elements": 40, "element_diameter_mm": 12, "pitch_diameter_mm": 40}]
        }
        cases = [
            ({"tyre": "round"}, "sidewall"),
            ({"axles": []}, "axles"),
            ({"label": ""}, "label"),
            ({"axles": [{"hubs": [hub_data("A1R", "right"), hub_data("A1L", "left")]}]}, "from left to right"),
            ({"axles": [{"hubs": [hub_data("A1L", "left")] * 3}]}, "at most two on a side"),
            ({"axles": [{"hubs": [hub_data("A1L", "left", "cube")]}]}, "hub design"),
            ({"axles": [{"hubs": [bad_ball]}]}, "Count them again"),
            ({"axles": [{"hubs": [hub_data("A1L", "left") | {"play_max_mm": -1}]}]}, "play_max_mm"),
            ({"axles": [{"hubs": [hub_data("A1L", "left") | {"play_min_mm": 0.4}]}]}, "Swap"),
        ]
        for changes, words in cases:
            with self.subTest(words):
                answer = self.send("vehicles", vehicle_data() | changes)
                self.assertEqual(answer.status_code, 422)
                self.assertIn(words, answer.json()["message"])
        self.assertEqual(self.client.get("/api/yard").json()["vehicle_count"], 1)

    def test_correcting_keeps_hubs_that_cases_speak_of(self) -> None:
        """A tyre can be corrected; a hub of a vehicle with cases cannot vanish."""
        self.assertEqual(self.correct(vehicle_data() | {"tyre": "205/55 R16"}).json()["tyre"], "205/55 R16")
        shorter = self.correct(vehicle_data(axles=1))
        self.assertEqual((shorter.status_code, shorter.json()["code"]), (409, "hub_in_use"))

    def correct(self, data: dict, **more: object):
        """Send a corrected vehicle as somebody does who has just looked at it."""
        seen = {"revision": self.client.get(f"/api/vehicles/{self.vehicle.id}").json()["revision"]}
        return self.send(f"vehicles/{self.vehicle.id}", data | seen | more, method="put")

    def test_sent_twice_is_one(self) -> None:
        """A vehicle, and a correction, by their numbers; another workshop's number is taken."""
        new = vehicle_data("Twice") | {"id": str(uuid.uuid4())}
        self.assertEqual([self.send("vehicles", new).status_code for _ in range(2)], [201, 201])
        self.assertEqual(self.client.get("/api/yard?search=Twice").json()["vehicle_count"], 1)
        self.assertEqual(self.send("vehicles", new, client=self.neighbour).json()["code"], "id_taken")
        change = vehicle_data("Twice again") | {"revision": 1, "change": str(uuid.uuid4())}
        answers = [self.send(f"vehicles/{new['id']}", change, method="put") for _ in range(2)]
        self.assertEqual([(a.status_code, a.json()["revision"]) for a in answers], [(200, 2), (200, 2)])

    def test_hubs_are_named_by_axle_and_side(self) -> None:
        """Whatever a client calls them: names go into file names and addresses."""
        hubs = [hub_data("../../a", side) for side in ("left", "left", "right", "right")]
        stored = self.send("vehicles", {"label": "Twin", "axles": [{"hubs": hubs}, {"hubs": [hub_data("", "centre")]}]})
        named = [[hub["id"] for hub in axle["hubs"]] for axle in stored.json()["axles"]]
        self.assertEqual(named, [["A1LO", "A1LI", "A1RI", "A1RO"], ["A2C"]])
        mates = [[hub["mate"] for hub in axle["hubs"]] for axle in stored.json()["axles"]]
        self.assertEqual(mates, [["A1RO", "A1RI", "A1LI", "A1LO"], [""]])  # across the axle, never the twin beside it

    def test_a_change_that_somebody_made_meanwhile_is_not_lost(self) -> None:
        """Who saw an older vehicle is told so, and the bearing that was fitted meanwhile stays."""
        seen = self.client.get(f"/api/vehicles/{self.vehicle.id}").json()["revision"]
        fit = {"hub": "A1L", "designation": "L44649/L44610", "row": "other", "both_sides": False}
        self.assertEqual(self.send(f"vehicles/{self.vehicle.id}/bearings", fit).status_code, 200)
        late = self.correct(vehicle_data() | {"tyre": "205/55 R16"}, revision=seen)
        self.assertEqual((late.status_code, late.json()["code"]), (409, "changed_meanwhile"))
        kept = self.client.get(f"/api/vehicles/{self.vehicle.id}").json()["axles"][0]["hubs"][0]
        self.assertIn("L44649/L44610", [row["designation"] for row in kept["bearings"]])

    def test_a_correction_on_top_of_one_that_still_waited_is_taken(self) -> None:
        """But not once a bearing was fitted in between: that is another change."""
        seen = self.client.get(f"/api/vehicles/{self.vehicle.id}").json()["revision"]
        one, later = str(uuid.uuid4()), vehicle_data() | {"tyre": "205/55 R16"}
        self.assertEqual(self.correct(vehicle_data(), revision=seen, change=one).status_code, 200)
        fit = {"hub": "A1L", "designation": "L44649/L44610", "row": "other", "both_sides": False}
        self.send(f"vehicles/{self.vehicle.id}/bearings", fit)
        self.assertEqual(self.correct(later, revision=seen, after=one).status_code, 409)
        seen, two = self.client.get(f"/api/vehicles/{self.vehicle.id}").json()["revision"], str(uuid.uuid4())
        self.assertEqual(self.correct(vehicle_data(), revision=seen, change=two).status_code, 200)
        self.assertEqual(self.correct(later, revision=seen, after=two).json()["tyre"], "205/55 R16")

    def test_another_design_asks_first_and_leaves_the_case_readable(self) -> None:
        """What was logged of a part that the new design has not is set aside, said so, and counts no more."""
        self.observe("A1L", "part", {"part": "unit", "finds": ["blue"]})
        self.observe("A1L", "spin", {"answer": "rumbles"})
        other = vehicle_data(design="taper_castle")
        asked = self.correct(other)
        self.assertEqual((asked.status_code, asked.json()["code"]), (409, "another_design"))
        self.assertEqual(self.correct(other, set_aside=True).status_code, 200)
        case = self.client.get(f"/api/cases/{self.case.id}").json()
        self.assertEqual([bool(row["unfit"]) for row in case["observations"] if row["hub"]], [True, False])
        self.assertIn("set aside", next(row["words"] for row in case["observations"] if row["kind"] == "part"))
        self.assertEqual(self.client.get(f"/api/cases/{self.case.id}/assessment").status_code, 200)
        decided = self.send(f"cases/{self.case.id}/verdicts", {"hub": "A1L", "choice": "adjust", "reason": "loose"})
        self.assertEqual(decided.status_code, 201, decided.content)

    def test_a_torque_book(self) -> None:
        """Kept for hub and mate, cleared by null, kept through a correction, and copied."""
        path = f"vehicles/{self.vehicle.id}/hubs/A1L/book"
        book = {
            "fittings": {"brake": "drum"},
            "fastenings": {"wheel_nut": {"least_nm": 100, "most_nm": 120, "source": "manual"}},
        }
        kept = {hub["id"]: hub for axle in self.send(path, book).json()["axles"] for hub in axle["hubs"]}
        for hub in ("A1L", "A1R"):
            self.assertEqual(
                (kept[hub]["fittings"], kept[hub]["fastenings"]["wheel_nut"]["most_nm"]), ({"brake": "drum"}, 120)
            )
        brake = next(row for row in kept["A1L"]["questions"] if row["key"] == "brake")
        self.assertEqual((brake["taken"], kept["A2L"]["fittings"]), ("Drum", {}))
        self.assertIn("around", kept["A1L"]["parts"])
        self.correct(vehicle_data() | {"plate": "KRO 17"})
        hub = self.client.get(f"/api/vehicles/{self.vehicle.id}").json()["axles"][0]["hubs"][0]
        self.assertEqual(hub["fittings"], {"brake": "drum"})
        other = self.send("vehicles", vehicle_data()).json()["id"]
        copied = self.send(f"vehicles/{other}/book/copy", {"vehicle": str(self.vehicle.id)}).json()
        self.assertEqual(copied["axles"][0]["hubs"][1]["fastenings"]["wheel_nut"]["source"], "manual")
        self.send(path, {"fastenings": {"wheel_nut": None}, "fittings": {"brake": ""}, "both_sides": False})
        hubs = self.client.get(f"/api/vehicles/{self.vehicle.id}").json()["axles"][0]["hubs"]
        self.assertEqual([hub["fittings"] for hub in hubs], [{}, {"brake": "drum"}])
        for wrong in (
            {"fittings": {"brake": "anchor"}},
            {"fastenings": {"wheel_nut": {"least_nm": -4}}},
            {"fastenings": {"moon": {}}},
        ):
            self.assertEqual(self.send(path, wrong).status_code, 422, wrong)
        self.assertEqual(self.neighbour.post(f"/api/{path}", book, content_type="application/json").status_code, 404)

    def test_a_job_stays_that_of_the_hub_it_was_decided_on(self) -> None:
        """Corrected afterwards to another design, its steps are still those of the verdict."""
        decided = {"hub": "A1L", "choice": "replace_unit", "reason": "worn"}
        self.assertEqual(self.send(f"cases/{self.case.id}/verdicts", decided).status_code, 201)
        steps = lambda: [step["id"] for step in self.client.get(f"/api/cases/{self.case.id}/job").json()["steps"]]  # noqa: E731
        before = steps()
        self.correct(vehicle_data(design="taper_castle"), set_aside=True)
        self.assertEqual(steps(), before)
