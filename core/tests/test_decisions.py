"""Decisions as the trade makes them, from the log to the choice: common practice, no source, unless a test says so."""

import unittest

from hematite.evidence import Observation
from hematite.hubs import designs
from hematite.policy import Policy, read_policy
from hematite.vehicles import Axle, Hub, Vehicle
from hematite.verdict import HubVerdict, as_json, assess

from tests.test_verdict import dial, found, van


def part(name: str, *finds: str, hub: str = "A1L") -> Observation:
    """Return one looked-at part."""
    return Observation("part", hub, {"part": name, "finds": list(finds)})


def judged(design: str, *said: Observation, policy: Policy | None = None, hub: str = "A1L") -> HubVerdict:
    """Return what is decided of one hub of a van."""
    assessment = assess(van(design), [], list(said), policy=policy)
    return next(verdict for verdict in assessment.hubs if verdict.hub.id == hub)


def chosen(design: str, *said: Observation, **more: Policy) -> str:
    """Return the choice alone."""
    return judged(design, *said, **more).choice.choice


LOOSE = (
    *found("A1L", rock_12_6="hub", rock_3_9="hub", brake_held="vanishes", spin="free"),
    dial("A1L", 0.3, 0.31, 0.3),
)
CLEAN = (
    *(part(name, "clean") for name in ("outer_bearing", "inner_bearing")),
    *(part(name, "smooth") for name in ("outer_cup", "inner_cup")),
)


class EachDesign(unittest.TestCase):
    """At least one case for each way of building a hub."""

    def test_table(self) -> None:
        """Design, what was found, what is done."""
        growls = found("A1L", spin="rumbles", spring_touch="rough", stethoscope="growls")
        cases = [
            ("taper_castle", LOOSE, "adjust"),
            ("taper_locknut", [part("outer_cup", "pits")], "replace_bearing"),
            ("taper_clamp", [part("inner_bearing", "dry"), *found("A1L", spin="grinds")], "repack"),
            ("taper_pressurised", [part("outer_bearing", "milky")], "replace_bearing"),
            ("taper_shimmed", [dial("A1L", 0.2, 0.21, 0.2), *found("A1L", spin="free", in_out="moves")], "adjust"),
            ("hub_unit", [part("unit", "glitter")], "replace_unit"),
            ("pressed_double_row", growls, "replace_bearing"),
            ("cartridge_pair", growls, "repack"),
            ("cup_cone", [part("right_race", "scratches")], "replace_bearing"),
            ("axle_retained", [*growls, *found("A1L", half_shaft="bolts_tight")], "replace_bearing"),
        ]
        self.assertEqual({design for design, _, _ in cases}, set(designs()))
        for design, said, choice in cases:
            with self.subTest(design):
                self.assertEqual(chosen(design, *said), choice)


class TradeFacts(unittest.TestCase):
    """What every mechanic would do."""

    def test_loose_quiet_and_clean_is_adjusted(self) -> None:
        """Opened and clean all over: settled, and set; repacked while it is open, as the workshop has it."""
        choice = judged("taper_castle", *LOOSE, *CLEAN).choice
        self.assertEqual((choice.choice, choice.settled), ("adjust", True))
        self.assertTrue(any("repack" in words for words in choice.also))
        asked = read_policy({"schools": {"repack": "when_asked"}})
        self.assertFalse(
            any("repack" in words for words in judged("taper_castle", *LOOSE, *CLEAN, policy=asked).choice.also)
        )

    def test_drags_before_the_slack_is_gone(self) -> None:
        """Worn, not only loose: replace."""
        said = (*LOOSE[:-2], *found("A1L", spin="drags"), dial("A1L", 0.3, 0.31, 0.3))
        choice = judged("taper_castle", *said).choice
        self.assertEqual((choice.choice, choice.lead.id), ("replace_bearing", "drags-before-slack-gone"))

    def test_milky_grease_means_bearing_and_seal(self) -> None:
        """Water: replace with the seal, and look at its land."""
        choice = judged("taper_pressurised", part("outer_bearing", "milky")).choice
        self.assertEqual(choice.choice, "replace_bearing")
        self.assertTrue(any("seal" in words for words in choice.also) and any("land" in words for words in choice.also))

    def test_metal_in_a_sealed_unit_without_any_play(self) -> None:
        """No play does not clear it."""
        choice = judged(
            "hub_unit", part("unit", "glitter"), dial("A1L", 0.0, 0.0, 0.0), *found("A1L", rock_12_6="nothing")
        )
        self.assertEqual(choice.choice.choice, "replace_unit")

    def test_cartridges(self) -> None:
        """Rough without play: clean and regrease; with play: replace."""
        rough = found("A1L", spin="grinds", spring_touch="rough", stethoscope="growls")
        self.assertEqual(chosen("cartridge_pair", *rough, dial("A1L", 0.0, 0.0, 0.0)), "repack")
        self.assertEqual(chosen("cartridge_pair", *rough, dial("A1L", 0.2, 0.2, 0.21)), "replace_bearing")

    def test_heat_marked_spindle(self) -> None:
        """Replace, check the spindle, and not driven until then."""
        choice = judged("taper_castle", part("spindle", "shaft_blue")).choice
        self.assertEqual((choice.choice, choice.off_road), ("replace_bearing", True))
        self.assertTrue(any("spindle" in words for words in choice.also))
        self.assertTrue(choice.label.startswith("Off the road now"))

    def test_dry_but_unmarked_taper(self) -> None:
        """Clean, repack, new seal."""
        self.assertEqual(chosen("taper_castle", part("outer_bearing", "dry"), *CLEAN[1:]), "repack")

    def test_seats(self) -> None:
        """A ring that turns in its seat takes the hub with it, whatever the design."""
        for design in ("taper_castle", "cartridge_pair"):
            self.assertEqual(chosen(design, part("hub", "turns_in_seat")), "replace_unit")

    def test_signs_of_danger(self) -> None:
        """Wobble, smoke, seizing, a loose nut or a lost pin: off the road."""
        for said in (
            *(found("A1L", danger_signs=sign) for sign in ("wobbles", "seizes", "smokes")),
            found("A1L", wheel_nuts="loose"),
            [part("pin", "fast_missing")],
            [dial("A1L", 1.2, 1.3, 1.2), *found("A1L", spin="clicks")],
        ):
            choice = judged("taper_castle", *said).choice
            self.assertEqual((choice.choice, choice.road.key, choice.off_road), ("off_road", "no", True), said)
            self.assertNotEqual(choice.repair, "off_road")

    def test_what_is_mended_once_it_stands(self) -> None:
        """Off the road for a wobble; what then follows from the rest: slop with the bolts tight is the bearing."""
        said = found("A1L", danger_signs="wobbles", half_shaft="bolts_tight", in_out="moves")
        choice = judged("axle_retained", *said).choice
        self.assertEqual((choice.choice, choice.repair), ("off_road", "replace_bearing"))
        self.assertIn("pressed bearing", choice.then.because)

    def test_schools_change_what_is_done(self) -> None:
        """A rusted unit is replaced whole, pressed anew, or bought in as a knuckle."""
        growls = found("A1L", spin="rumbles", spring_touch="rough", stethoscope="growls")
        for way, choice in (("unit", "replace_unit"), ("press", "replace_bearing"), ("knuckle", "replace_unit")):
            policy = read_policy({"schools": {"rusted_unit": way}})
            self.assertEqual(chosen("hub_unit", *growls, policy=policy), choice, way)
        both = judged("hub_unit", *growls, policy=read_policy({"schools": {"sides": "both"}})).choice
        self.assertTrue(any("Both sides" in words for words in both.also))

    def test_limits_override_the_default_and_say_where_from(self) -> None:
        """0.2 mm is over the usual window, inside the workshop's, and over the vehicle's own again."""
        play = dial("A1L", 0.2, 0.2, 0.21)
        manual = {"least_mm": 0.05, "most_mm": 0.25, "source": "manual, page 41"}
        policy = read_policy({"limits": {"taper_castle": manual}})
        self.assertEqual(chosen("taper_castle", play, *found("A1L", spin="free"), policy=policy), "leave")
        limited = next(policy.limited(van("taper_castle")).hubs())
        self.assertEqual((limited.play_window_mm, limited.window_source), ((0.05, 0.25), "manual, page 41"))
        own = Hub("A1L", "left", "taper_castle", play_max_mm=0.1, play_source="its plate")
        kept = next(policy.limited(Vehicle((Axle((own,)),))).hubs())
        self.assertEqual((kept.play_window_mm[1], kept.window_source), (0.1, "its plate"))


class Uncertain(unittest.TestCase):
    """A choice with its probability, and the test that would settle it."""

    def test_unsettled(self) -> None:
        """A rumble alone: the likeliest choice is given with its probability, and one test that would settle most."""
        verdict = judged("taper_castle", *found("A1L", spin="rumbles"))
        self.assertFalse(verdict.choice.settled)
        self.assertLess(verdict.choice.probability, 0.7)
        self.assertIsNotNone(verdict.settle)
        shown = as_json(assess(van("taper_castle"), [], found("A1L", spin="rumbles")))["hubs"]["A1L"]
        self.assertEqual(shown["settled"], False)
        self.assertTrue(shown["settle"]["label"])
        total = shown["choice_probability"] + sum(other["probability"] for other in shown["alternatives"])
        self.assertAlmostEqual(total, 1.0, delta=0.01)

    def test_not_looked_at_is_not_settled(self) -> None:
        """Silence never looks like all good."""
        self.assertFalse(judged("hub_unit").choice.settled)

    def test_why_not(self) -> None:
        """Every other choice is listed with its reason; what the design forbids is not possible."""
        choice = judged("hub_unit", part("unit", "glitter")).choice
        why = {other.choice: other for other in choice.alternatives}
        self.assertEqual(why["adjust"].because, "Nothing in this design can be adjusted.")
        self.assertFalse(why["repack"].possible)
        self.assertTrue(all(other.because for other in why.values()))

    def test_overruled_rules_are_named(self) -> None:
        """Loose would be adjusted, but its ring turns in its seat: the rule that lost is named too."""
        choice = judged("taper_castle", *LOOSE, part("hub", "turns_in_seat")).choice
        self.assertEqual(choice.lead.id, "seat")
        self.assertIn("loose-quiet", [fired.rule.id for fired in choice.overruled])


class HowFar(unittest.TestCase):
    """Drive, drive gently, or not at all; never a distance."""

    def test_roads(self) -> None:
        """From an early noise to heat colour."""
        cases = [
            (found("A1L", spin="free", rock_12_6="nothing"), "drive"),
            (found("A1L", spin="rumbles", spring_touch="rough", stethoscope="growls"), "gently"),
            ([part("unit", "glitter")], "gently"),
            ([part("unit", "blue")], "no"),
            (found("A1L", danger_signs="smokes"), "no"),
        ]
        for said, road in cases:
            verdict = judged("hub_unit", *said).choice.road
            self.assertEqual(verdict.key, road, said)
            self.assertTrue(verdict.because and verdict.cautions)
            self.assertNotRegex(" ".join(verdict.cautions), r"\d+ ?(km|miles)")

    def test_silence_is_never_all_good(self) -> None:
        """Nobody has touched this hub: it is neither free to drive nor settled to leave, whatever the driver says."""
        complaint = Observation("complaint", "", {"words": ["growl"]})
        for said in ([], [complaint]):
            choice = judged("hub_unit", *said).choice
            self.assertEqual((choice.road.key, choice.settled), ("unknown", False), said)

    def test_the_vehicle_goes_as_far_as_its_worst_hub(self) -> None:
        """One sound hub frees no vehicle: the strictest road counts, and names its hub."""
        said = [*found("A1R", spin="free", rock_12_6="nothing"), part("unit", "blue")]
        shown = as_json(assess(van("hub_unit"), [], said))
        self.assertEqual(shown["hubs"]["A1R"]["road"]["key"], "drive")
        self.assertEqual((shown["road"]["key"], shown["road"]["hub"]), ("no", "A1L"))

    def test_a_find_never_makes_the_road_milder(self) -> None:
        """Whatever is found on top, the road stays as strict or gets stricter."""
        strict = {"drive": 0, "unknown": 1, "gently": 2, "no": 3}
        start = found("A1L", spin="free", rock_12_6="nothing")
        more = {"outer_cup": "pits", "outer_bearing": "milky", "spindle": "shaft_blue", "pin": "fast_missing"}
        for name, find in more.items():
            before = judged("taper_castle", *start).choice.road.key
            start = [*start, part(name, find)]
            self.assertGreaterEqual(strict[judged("taper_castle", *start).choice.road.key], strict[before], name)
