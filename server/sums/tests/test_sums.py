"""Sums at a hub: filled from the vehicle, kept with the step, taught by the dial, taken from the store."""

import uuid
from datetime import timedelta
from statistics import mean

from cases.models import Case
from cases.services import open_case
from garage.services import add_vehicle, write_book
from hematite.sums import sums as table
from policies.services import policy_of
from workshop.tests.people import WorkshopTestCase, vehicle_data

from sums.models import Worked

WINDOW = {"low_mm": 0.025, "high_mm": 0.125}
BOOK = {
    "nut_set": {"least_nm": 24, "thread": "M24×1.5", "slots": 6, "holes": 2},
    "wheel_nut": {"least_nm": 110, "count": 6},
}


class Sums(WorkshopTestCase):
    """A castle nut with its book, and a store of shims."""

    def setUp(self) -> None:
        """Make a vehicle on tapers with its torque book, and a case at it."""
        super().setUp()
        vehicle = add_vehicle(self.user, vehicle_data("Display van", "taper_castle"))
        write_book(self.user, vehicle.id, "A1L", {"fittings": {}, "fastenings": BOOK, "both_sides": True})
        self.vehicle_id, self.case_id = vehicle.id, open_case(self.user, vehicle.id, "Growl").id

    def keep(self, key: str, values: dict, **more: object):
        """Keep a sum at A1L."""
        body = {"id": str(uuid.uuid4()), "hub": "A1L", "step": "", "sum": key, "values": values} | more
        return self.send(f"cases/{self.case_id}/worked", body)

    def at_hub(self, step: str = "") -> dict:
        """Return the sums at A1L by key, with the rest beside them."""
        found = self.client.get(f"/api/cases/{self.case_id}/sums?hub=A1L&step={step}").json()
        return found | {"by": {row["key"]: row for row in found["sums"]}}

    def shop(self, **shop: object) -> None:
        """Say what the workshop has."""
        self.client.put("/api/policy", {"revision": 0, "shop": shop}, content_type="application/json")

    def test_filled_from_the_vehicle(self) -> None:
        """Thread, slots and window from the book and the design; the star's count; nothing else."""
        found = self.at_hub()
        self.assertEqual(set(found["by"]), set(table()))
        slots = found["by"]["slots"]["values"]
        self.assertEqual((slots["thread"], slots["slots"], slots["lock"]), ("M24×1.5", 6, "castle"))
        self.assertEqual(found["by"]["wheel_nuts"]["values"], {"nuts": 6, "torque_nm": 110.0})
        self.assertNotIn("bore_mm", found["by"]["press"]["values"])
        self.assertEqual([move["id"] for move in found["moves"]][-2:], ["lock", "locked"])

    def test_answered_and_refused(self) -> None:
        """One line; a bad figure in the trade's words; an unknown sum, and another's case, not at all."""
        ask = {"values": {"thread": "M24×1.5", "angle_deg": 30, **WINDOW}}
        self.assertIn("perhaps in the window", self.send("sums/nut", ask).json()["line"])
        refused = self.send("sums/nut", {"values": {"thread": "M24×1.5", "angle_deg": -3}})
        self.assertEqual(refused.status_code, 422)
        self.assertIn("Backed off by", refused.json()["message"])
        self.assertEqual(self.send("sums/luck", {"values": {}}).status_code, 422)
        self.assertEqual(self.send("sums/nut", ask | {"case": str(uuid.uuid4()), "hub": "A1L"}).status_code, 404)

    def test_the_lever(self) -> None:
        """Movement at the tyre as the core has it; a hub larger than its tyre is refused."""
        lever = {"tyre_movement_mm": 12, "tyre_radius_mm": 320, "hub_radius_mm": 80}
        self.assertAlmostEqual(self.send("sums/lever", lever).json()["hub_movement_mm"], 3.0)
        self.assertEqual(self.send("sums/lever", lever | {"hub_radius_mm": 400}).status_code, 422)

    def test_the_dial_teaches_this_hub(self) -> None:
        """Kept once, it narrows the range here and nowhere else; sent twice it is kept once."""
        values = {"thread": "M24×1.5", "angle_deg": 60, "preload_nm": 24, **WINDOW}
        before = self.send("sums/nut", {"values": values, "case": str(self.case_id), "hub": "A1L"}).json()["picture"]
        number = str(uuid.uuid4())
        for _ in range(2):
            self.assertEqual(self.keep("nut", values | {"seen_mm": 0.21}, id=number).status_code, 200)
        self.assertEqual(Worked.objects.count(), 1)
        self.keep("nut", values)  # without a reading it teaches nothing, and takes nothing back
        after = self.send("sums/nut", {"values": values, "case": str(self.case_id), "hub": "A1L"}).json()["picture"]
        other = self.send("sums/nut", {"values": values, "case": str(self.case_id), "hub": "A1R"}).json()["picture"]
        self.assertLess(after["most_mm"] - after["least_mm"], before["most_mm"] - before["least_mm"])
        self.assertEqual(other, before)
        self.assertEqual(self.client.get(f"/api/vehicles/{self.vehicle_id}/worked").json()[-1]["id"], number)
        logged = self.client.get(f"/api/cases/{self.case_id}").json()["work"]
        self.assertEqual({(row["hub"], row["person"]) for row in logged}, {("A1L", "ours")})
        self.assertRegex(logged[0]["words"], "nut and end play: 0.21 mm by the dial")

    def test_a_pack_leaves_the_store(self) -> None:
        """What was counted is fewer afterwards, what nobody counted stays; the next pack is of what is left."""
        self.shop(shims=[{"mm": 1.0, "count": 3}, {"mm": 0.1, "count": None}])
        values = self.at_hub()["by"]["shims"]["values"] | {"places_mm": [3, 3, 3], "end_play_mm": 0.05, "both": True}
        kept = self.keep("shims", values)
        self.assertEqual(kept.json()["line"], "3.10 mm: 1.00 + 1.00 + 1.00 + 0.10 mm")
        self.assertEqual(policy_of(self.user.workshop_id).shop.shims, {1.0: 0, 0.1: None})
        found = self.at_hub()["by"]["shims"]
        self.assertEqual(found["last"]["line"], kept.json()["line"])
        self.assertIn("no pack", self.send("sums/shims", {"values": values | found["values"]}).json()["line"])

    def test_wheel_nuts_are_due_again(self) -> None:
        """With who and which wrench; half an hour later, and by the odometer of the first time."""
        first = {"nuts": 6, "torque_nm": 110, "wrench": "the long one", "now_km": 81_200}
        self.assertEqual(self.keep("wheel_nuts", first).json()["person"], "ours")
        Worked.objects.update(at=Worked.objects.get().at - timedelta(minutes=31))
        filled = self.at_hub()["by"]["wheel_nuts"]["values"]
        self.assertEqual((filled["then_km"], filled["wrench"], filled["times"]), (81_200, "the long one", 1))
        self.assertGreaterEqual(filled["minutes_since"], 31)
        self.assertIn("Half an hour is up", self.send("sums/wheel_nuts", {"values": filled}).json()["line"])
        self.keep("wheel_nuts", filled)
        filled = self.at_hub()["by"]["wheel_nuts"]["values"]
        due = self.send("sums/wheel_nuts", {"values": filled | {"now_km": 81_270}}).json()
        self.assertEqual((due["level"], due["line"]), ("doubt", "70 km driven: due now."))

    def test_the_workshops_wrenches(self) -> None:
        """The one whose trusted range has the torque is named; none is said to be none."""
        self.shop(wrenches=[{"label": "click", "least_nm": 20, "most_nm": 200}])
        said = [self.send("sums/torque", {"values": {"torque_nm": nm}}).json()["says"][0] for nm in (110, 300)]
        self.assertRegex(said[0], "Take: click")
        self.assertRegex(said[1], "None of the workshop")

    def test_nothing_half_asked_is_kept(self) -> None:
        """What is wanted is named; an unknown step and a gauge that may have run backwards are refused."""
        self.assertIn("thread of the nut", self.keep("nut", {}).json()["message"])
        asked = {"thread": "M24×1.5", "angle_deg": 330, **WINDOW}
        self.assertEqual(self.keep("nut", asked).status_code, 422)
        self.assertEqual(self.keep("torque", {"torque_nm": 100}, step="A1L.nonsense.on").json()["code"], "no_such_step")
        self.assertEqual(Worked.objects.count(), 0)

    def test_the_simulated_nut(self) -> None:
        """It plays what a simulated hub hides, and nothing at a real one."""
        turned = {"hub": "A1L", "thread": "M24×1.5", "angle_deg": 60, "preload_nm": 24}
        self.assertEqual(self.send(f"cases/{self.case_id}/simulated/nut", turned).json()["code"], "not_simulated")
        Case.objects.filter(id=self.case_id).update(simulated={"A1L": "loose"})
        found = [
            self.send(f"cases/{self.case_id}/simulated/nut", turned | {"angle_deg": angle}).json() for angle in (0, 60)
        ]
        self.assertTrue(found[0]["drags"] and 0.15 < mean(found[1]["strokes_mm"]) < 0.25, found)
