"""Vehicles by kind, what their hubs are called, and what their cases wait for."""

import unittest

from hematite.bundles import vehicle_from_json
from hematite.errors import BadQuantity
from hematite.following import columns, waits_for
from hematite.hubs import designs
from hematite.tables import table
from hematite.vehicles import Vehicle, hub_names

WHEELS = {1: ["centre"], 2: ["left", "right"], 4: ["left", "left", "right", "right"]}


def of_kind(key: str) -> Vehicle:
    """Return a vehicle of a kind as the table has it."""
    axles = []
    for n, axle in enumerate(table("vehicle_kinds.toml")[key]["axles"], 1):
        sides = WHEELS[axle["wheels"]]
        names = zip(hub_names(n, sides), sides, strict=True)
        axles.append(axle | {"hubs": [{"id": name, "side": side, "design": axle["design"]} for name, side in names]})
    return vehicle_from_json({"label": key, "axles": axles})


class Kinds(unittest.TestCase):
    """The table that a new vehicle begins from."""

    def test_every_kind_is_a_vehicle(self) -> None:
        """Known designs, and the kind that checks go by; every design is on some kind but the retained axle."""
        powers = {key: of_kind(key).kind for key in table("vehicle_kinds.toml")}
        trailers = {key for key, kind in powers.items() if kind == "trailer"}
        self.assertEqual(trailers, {"trailer_single", "trailer_tandem", "boat_trailer"})
        self.assertEqual({key for key, kind in powers.items() if kind == "cycle"}, {"trike", "bicycle"})
        used = {hub.design_key for key in powers for hub in of_kind(key).hubs()}
        self.assertEqual(set(designs()) - used, {"axle_retained"})

    def test_hubs_are_spoken_of_as_people_do(self) -> None:
        """Front and rear, left and right, inner and outer twins; a bicycle has wheels, a single axle no end."""
        said = {
            "car_front": ["front left", "front right", "rear left", "rear right"],
            "bicycle": ["front wheel", "rear wheel"],
            "trailer_single": ["left", "right"],
            "trailer_tandem": ["front axle left", "front axle right", "rear axle left", "rear axle right"],
        }
        for key, words in said.items():
            self.assertEqual(list(of_kind(key).spoken().values()), words)
        twins = of_kind("truck").spoken()
        self.assertEqual([twins[hub] for hub in ("A2LO", "A2LI", "A2RI", "A2RO")],
                         ["rear left outer", "rear left inner", "rear right inner", "rear right outer"])  # fmt: skip

    def test_names(self) -> None:
        """By axle and side; a side holds two wheels, and they come from left to right."""
        self.assertEqual(hub_names(3, ["left", "centre", "right"]), ["A3L", "A3C", "A3R"])
        self.assertEqual(hub_names(1, ["right"]), ["A1R"])  # a sidecar's
        for sides in (["right", "left"], ["left"] * 3, ["centre", "centre"], ["above"]):
            with self.assertRaises(BadQuantity):
                hub_names(1, sides)


class Board(unittest.TestCase):
    """What an open case waits for."""

    def test_in_the_order_of_the_work(self) -> None:
        """Nothing found, found, decided, parts on their way, all done."""
        for decided, left, found, ordered, waits in (
            (False, False, False, False, "hear"),
            (False, False, True, False, "decide"),
            (False, False, True, True, "decide"),
            (True, True, True, False, "do"),
            (True, True, True, True, "parts"),
            (True, False, True, True, "prove"),
        ):
            self.assertEqual(waits_for(decided=decided, left=left, found=found, ordered=ordered), waits)
        self.assertEqual([column.key for column in columns()], ["hear", "decide", "do", "parts", "prove"])
