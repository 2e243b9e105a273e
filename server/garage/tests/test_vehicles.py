"""Vehicles of every shape, and those that cannot be."""

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
            ({"axles": [{"hubs": [hub_data("A1L", "left"), hub_data("A1L", "right")]}]}, "share one id"),
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
        path = f"vehicles/{self.vehicle.id}"
        self.assertEqual(
            self.send(path, vehicle_data() | {"tyre": "205/55 R16"}, method="put").json()["tyre"], "205/55 R16"
        )
        shorter = self.send(path, vehicle_data(axles=1), method="put")
        self.assertEqual((shorter.status_code, shorter.json()["code"]), (409, "hub_in_use"))
