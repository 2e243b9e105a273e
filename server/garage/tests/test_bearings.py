"""The bearing finder, and what is kept of it on the vehicle."""

from workshop.tests.people import WorkshopTestCase, vehicle_data

from garage.services import add_vehicle


class Finder(WorkshopTestCase):
    """From a caliper to both hubs of the axle."""

    def test_fits_and_near_misses(self) -> None:
        """Three figures name it; two say what is missing; one is refused."""
        found = self.client.get("/api/bearings?bore_mm=26.99&outside_mm=50.3&width_mm=14.2").json()
        self.assertEqual([(s["cone"], s["cup"]) for s in found["fits"]], [("L44649", "L44610")])
        self.assertTrue(all(miss["why"] for miss in found["near"]))
        self.assertEqual(self.client.get("/api/bearings?bore_mm=25&outside_mm=47").json()["missing"], ["width"])
        for query in ("bore_mm=25", "bore_mm=nan&width_mm=3", "bore_mm=52&outside_mm=25", "bore_mm=-1&outside_mm=3"):
            self.assertEqual(self.client.get(f"/api/bearings?{query}").status_code, 422, query)

    def test_kept_on_both_sides_with_estimated_orders(self) -> None:
        """The orders of a size whose balls nobody counted are a range; a counted row that is named keeps its count."""
        data = vehicle_data(design="taper_castle")
        for axle in data["axles"]:
            for hub in axle["hubs"]:
                hub["bearings"] = []
        vehicle = add_vehicle(self.user, data)
        seal = {"shaft_mm": 42.0, "housing_mm": 62.0, "width_mm": 10.0}
        body = {"hub": "A1L", "row": "outer", "designation": "L44649/L44610", "seal": seal}
        kept = self.send(f"vehicles/{vehicle.id}/bearings", body).json()
        left, right = kept["axles"][0]["hubs"]
        for hub in (left, right):
            self.assertEqual(hub["bearings"][0]["designation"], "L44649/L44610")
            self.assertEqual(hub["seal"], seal)
            (estimate,) = hub["estimates"]
            self.assertTrue(estimate["bpfo_least"] < estimate["bpfo"] < estimate["bpfo_most"])
            self.assertEqual(hub["orders"], [])
        self.assertEqual(kept["axles"][1]["hubs"][0]["bearings"], [])

    def test_one_side_only_and_counted_rows(self) -> None:
        """Naming a counted row keeps its elements; another bearing in its place takes them away."""
        fit = lambda name: self.send(  # noqa: E731
            f"vehicles/{self.vehicle.id}/bearings",
            {"hub": "A1L", "row": "one", "designation": name, "both_sides": False},
        ).json()["axles"][0]["hubs"]
        left, right = fit("6206")
        self.assertEqual((left["bearings"][0]["elements"], len(left["orders"])), (13, 1))
        self.assertEqual(right["bearings"][0]["designation"], "")
        left, _ = fit("6208")
        self.assertEqual((left["bearings"][0]["elements"], left["orders"]), (None, []))
        left, _ = fit("6205")  # counted: the published page of the drive-end bearing, from memory
        self.assertAlmostEqual(left["orders"][0]["bpfo"], 3.5848, places=3)
        self.assertEqual(left["estimates"], [])
        refused = self.send(f"vehicles/{self.vehicle.id}/bearings", {"hub": "A1L", "row": "one", "designation": "9999"})
        self.assertEqual(refused.status_code, 422)
