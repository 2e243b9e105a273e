"""A workshop's policy: kept whole, refused in words, used by every judgement, and never another workshop's."""

from uuid import uuid4

from cases.services import open_case
from garage.services import add_vehicle
from workshop.tests.people import WorkshopTestCase, vehicle_data

LIMIT = {"least_mm": 0.05, "most_mm": 0.3, "source": "manual, page 41"}


class Policy(WorkshopTestCase):
    """Schools, limits, prices."""

    def put(self, **data: object):
        """Put a policy."""
        seen = {"revision": self.client.get("/api/policy").json()["revision"]}
        return self.send("policy", seen | data, method="put")

    def test_a_change_that_somebody_made_meanwhile_is_not_lost(self) -> None:
        """Who saw an older policy is told whose change stands, and it stands."""
        self.put(schools={"sides": "both"})
        late = self.put(revision=0, prices={"figures": {"hour": 700}})
        self.assertEqual((late.status_code, late.json()["code"]), (409, "changed_meanwhile"))
        self.assertIn("ours", late.json()["message"])
        policy = self.client.get("/api/policy").json()
        self.assertEqual([s["chosen"] for s in policy["schools"] if s["key"] == "sides"], ["both"])

    def test_two_changes_of_one_person_that_waited_both_arrive(self) -> None:
        """The second says on which it was made; where another's came between, it is refused like any other."""
        seen = self.client.get("/api/policy").json()["revision"]
        one, two = str(uuid4()), str(uuid4())
        self.put(revision=seen, change=one, schools={"sides": "both"})
        later = {"revision": seen, "change": two, "after": one, "schools": {"sides": "one"}}
        self.assertEqual(self.put(**later).status_code, 200)
        self.put(schools={"sides": "both"})
        self.assertEqual(self.put(**later | {"change": str(uuid4())}).status_code, 409)

    def test_defaults_are_marked_as_examples(self) -> None:
        """Nobody entered anything: ten differences at their first option, every figure an example."""
        policy = self.client.get("/api/policy").json()
        self.assertEqual(len(policy["schools"]), 10)
        self.assertTrue(all(school["chosen"] == school["options"][0]["key"] for school in policy["schools"]))
        self.assertTrue(all(figure["example"] for figure in policy["figures"]))
        self.assertIsNone(policy["changed_by"])

    def test_kept_and_named(self) -> None:
        """What is entered is the workshop's own, with who changed it."""
        answer = self.put(
            schools={"sides": "both"},
            limits={"taper_castle": LIMIT},
            prices={"currency": "Kr", "figures": {"hour": 700}},
        )
        self.assertEqual(answer.status_code, 200, answer.content)
        policy = self.client.get("/api/policy").json()
        figures = {figure["key"]: figure for figure in policy["figures"]}
        self.assertEqual((figures["hour"]["value"], figures["hour"]["example"], policy["currency"]), (700, False, "Kr"))
        self.assertEqual(policy["changed_by"], "ours")
        limit = next(limit for limit in policy["limits"] if limit["design"] == "taper_castle")
        self.assertEqual((limit["most_mm"], limit["source"], limit["own"]), (0.3, "manual, page 41", True))

    def test_refusals(self) -> None:
        """Unknown ways, upside-down limits, text for a price; nothing is kept."""
        cases = [
            {"schools": {"sides": "three"}},
            {"limits": {"taper_castle": LIMIT | {"least_mm": 0.4}}},
            {"limits": {"taper_castle": LIMIT | {"source": " "}}},
            {"prices": {"figures": {"hour": -1}}},
            {"prices": {"figures": {"hour": "dear"}}},
        ]
        for data in cases:
            answer = self.put(**data)
            self.assertEqual(answer.status_code, 422, data)
            self.assertTrue(answer.json()["message"])
        self.assertIsNone(self.client.get("/api/policy").json()["changed_by"])

    def test_limits_reach_hubs_without_their_own(self) -> None:
        """The window is the workshop's; a hub's own stands before it; the neighbour's is untouched."""
        data = vehicle_data(design="taper_castle")
        data["axles"][0]["hubs"][0] |= {"play_max_mm": 0.1, "play_source": "its plate"}
        vehicle = add_vehicle(self.user, data)
        self.put(limits={"taper_castle": LIMIT})
        axles = self.client.get(f"/api/vehicles/{vehicle.id}").json()["axles"]
        left, right = axles[0]["hubs"]
        self.assertEqual((left["window_max_mm"], left["window_source"]), (0.1, "its plate"))
        self.assertEqual((right["window_max_mm"], right["window_source"]), (0.3, "manual, page 41"))
        theirs = add_vehicle(self.other, vehicle_data(design="taper_castle"))
        hub = self.neighbour.get(f"/api/vehicles/{theirs.id}").json()["axles"][0]["hubs"][0]
        self.assertEqual(hub["window_max_mm"], 0.125)

    def test_a_school_changes_the_advice(self) -> None:
        """Metal in a unit: the whole unit, until the workshop presses new bearings."""
        found = {"part": "unit", "finds": ["glitter"]}
        self.observe("A1L", "part", found)
        judged = lambda: self.client.get(f"/api/cases/{self.case.id}/assessment").json()["hubs"]["A1L"]  # noqa: E731
        self.assertEqual(judged()["choice"], "replace_unit")
        self.put(schools={"rusted_unit": "press"})
        self.assertEqual(judged()["choice"], "replace_bearing")

    def test_the_yard_asks_no_more_for_a_policy(self) -> None:
        """The page of vehicles and cases takes the same queries with and without one."""
        open_case(self.user, self.vehicle.id, "Hum")
        with self.assertNumQueries(13):
            self.client.get("/api/yard")
        self.put(schools={"sides": "both"})
        with self.assertNumQueries(13):
            self.client.get("/api/yard")
