"""Real jobs, design by design, told from complaint to decision as the trade takes it: common practice, no source."""

import unittest

from hematite.evidence import Observation
from hematite.hubs import designs
from hematite.policy import read_policy
from hematite.vehicles import Vehicle
from hematite.verdict import HubVerdict, assess

from tests.test_network import say, vehicle

HUB = "A1L"
GROWLS = [say("complaint", "growl"), say("spin", "rumbles", HUB), say("spring_touch", "rough", HUB)]
MOVES = [say("rock_12_6", "hub", HUB), say("rock_3_9", "hub", HUB), say("brake_held", "vanishes", HUB)]
STILL = [say("rock_12_6", "nothing", HUB), say("rock_3_9", "nothing", HUB), say("in_out", "nothing", HUB)]
FREE = [say("spin", "free", HUB), say("stethoscope", "quiet", HUB)]


def part(name: str, *finds: str) -> Observation:
    """Return one looked-at part of the hub."""
    return Observation("part", HUB, {"part": name, "finds": list(finds)})


def clean(*names: str) -> list[Observation]:
    """Return rolling parts called clean, and cups called smooth."""
    return [part(name, "smooth" if "cup" in name or "race" in name else "clean") for name in names]


TAPER = ("outer_bearing", "outer_cup", "inner_bearing", "inner_cup")
# Design, what was found, what is done; on a vehicle whose second axle drives where it has one.
TOLD: list[tuple[str, str, list[Observation], str]] = [
    ("hub_unit", "growls without play, the strut buzzes", [*GROWLS, *STILL], "replace_unit"),
    ("hub_unit", "moves both ways, no noise", [*MOVES, say("in_out", "moves", HUB), *FREE], "replace_unit"),
    ("pressed_double_row", "rumbles and has a trace", [*GROWLS, say("rock_12_6", "trace", HUB)], "replace_bearing"),
    ("taper_castle", "failed for a joint, only the nut is loose", [say("complaint", "joint"), *MOVES, *FREE], "adjust"),
    ("taper_castle", "clean inside, a little loose", [*MOVES, *FREE, *clean(*TAPER)], "adjust"),
    ("taper_castle", "pitted cup", [*GROWLS, part("outer_cup", "pits")], "replace_bearing"),
    ("taper_castle", "dry but unmarked", [*FREE, part("outer_bearing", "dry"), *clean(*TAPER[1:])], "repack"),
    (
        "taper_pressurised",
        "warm after the ramp, water in it",
        [say("heat", "warm", HUB), part("outer_bearing", "milky")],
        "replace_bearing",
    ),
    (
        "taper_pressurised",
        "warm, tight, no play, good grease",
        [say("heat", "warm", HUB), say("spin", "drags", HUB), *STILL, say("end_play", "none", HUB), *clean(*TAPER)],
        "adjust",
    ),
    ("taper_locknut", "loose behind a good lock", [*MOVES, *FREE, part("nut", "fast_wide")], "adjust"),
    (
        "taper_locknut",
        "drags at its nut before the slack is gone",
        [*MOVES, say("set_by_nut", "drags_first", HUB)],
        "replace_bearing",
    ),
    (
        "taper_clamp",
        "rough in the hand, scratched",
        [*GROWLS, part("inner_bearing", "turns_gritty", "scratches")],
        "replace_bearing",
    ),
    (
        "taper_shimmed",
        "too much end play, turns quiet",
        [Observation("end_play", HUB, {"readings_mm": [0.2, 0.21, 0.2]}), say("in_out", "moves", HUB), *FREE],
        "adjust",
    ),
    (
        "axle_retained",
        "slop with tight bolts, rumbles",
        [say("half_shaft", "bolts_tight", HUB), *GROWLS, say("in_out", "moves", HUB)],
        "replace_bearing",
    ),
    (
        "axle_retained",
        "slop that is only loose bolts",
        [say("complaint", "clunk"), say("half_shaft", "bolts_loose", HUB), *FREE],
        "look_elsewhere",
    ),
    ("cartridge_pair", "rough, no play", [say("complaint", "grind"), say("spin", "grinds", HUB), *STILL], "repack"),
    ("cartridge_pair", "play, no noise", [*MOVES, say("in_out", "moves", HUB), *FREE], "replace_bearing"),
    ("cup_cone", "loose cones, smooth", [say("rock_12_6", "hub", HUB), say("rock_3_9", "hub", HUB), *FREE], "adjust"),
    (
        "cup_cone",
        "pitted cone",
        [say("complaint", "grind"), say("spin", "grinds", HUB), part("right_balls", "pits")],
        "replace_bearing",
    ),
]


def decided(design: str, said: list[Observation], *, first_drives: bool = False, **more: object) -> HubVerdict:
    """Return the verdict at the hub."""
    of: Vehicle = vehicle(design, "hub_unit", driven=(1,) if first_drives else (2,))
    return assess(of, [], said, **more).at(HUB)


class Told(unittest.TestCase):
    """Each ends where section 4 of the trade's own rules has it."""

    def test_every_job(self) -> None:
        """The choice; where the vehicle may not move it is the repair that counts."""
        self.assertEqual({design for design, *_ in TOLD}, set(designs()))
        for design, words, said, choice in TOLD:
            with self.subTest(design, words=words):
                self.assertEqual(decided(design, said).choice.repair, choice)

    def test_a_driven_hub_that_clicks_with_play_stands(self) -> None:
        """Off the road, with its repair."""
        said = [*MOVES, say("spin", "clicks", HUB)]
        choice = decided("taper_locknut", said, first_drives=True).choice
        self.assertEqual((choice.road.key, choice.choice), ("no", "off_road"))
        self.assertIn(choice.repair, ("adjust", "replace_bearing"))

    def test_a_brake_a_tyre_and_a_joint_are_looked_for_elsewhere(self) -> None:
        """A scrape that changes with the brake; a cupped tread; a knuckle that moves against its arm."""
        told = {
            "brake": [
                say("complaint", "grind"),
                say("spin", "scrapes", HUB),
                say("brake_test", "changes"),
                say("coast_down", "short", HUB),
                *STILL,
            ],
            "tyre": [
                say("complaint", "growl"),
                say("tyre_edge", "cupped", HUB),
                say("wheel_swap", "moves"),
                *FREE,
                *STILL,
            ],
            "ball_joint": [
                say("complaint", "clunk"),
                say("rock_12_6", "joint", HUB),
                say("rock_3_9", "nothing", HUB),
                say("brake_held", "stays", HUB),
                *FREE,
            ],
        }
        for group, said in told.items():
            with self.subTest(group):
                verdict = decided("hub_unit", said, first_drives=True)
                self.assertEqual((verdict.cause, verdict.choice.choice), (group, "look_elsewhere"))

    def test_the_schools_decide_how_a_unit_is_renewed(self) -> None:
        """Whole, pressed anew, or a knuckle bought in."""
        for way, choice in (("unit", "replace_unit"), ("press", "replace_bearing"), ("knuckle", "replace_unit")):
            policy = read_policy({"schools": {"rusted_unit": way}})
            self.assertEqual(decided("hub_unit", GROWLS, policy=policy).choice.choice, choice)
