"""Answers that were once wrong or unsafe, each as it was told and as it must be; common practice, no source."""

import unittest
from dataclasses import replace

from hematite.beliefs import weigh
from hematite.evidence import Observation, Statement, inspected, statements_of
from hematite.following import contradictions
from hematite.vehicles import Axle, Hub, Vehicle
from hematite.verdict import Assessment, as_json, assess

from tests.test_network import CAR, TANDEM, VAN, say, vehicle

CLOSED = ("hub_unit", "pressed_double_row")
MOVES = ("rock_12_6", "rock_3_9")
FREE = ("A1L", "A1R", "A2L", "A2R")


def judged(of: Vehicle, *said: Observation) -> Assessment:
    """Return the assessment of a log."""
    return assess(of, [], list(said))


class PlayByHand(unittest.TestCase):
    """Rock, lever and dial feed one state; few mechanics own a dial."""

    def test_a_loose_sealed_hub_may_not_be_driven(self) -> None:
        """Moves both ways and in and out, 30 mm at the tyre: replace it, and not at all on the road."""
        for design in CLOSED:
            said = [*(say(k, "hub", "A1L") for k in MOVES), say("in_out", "moves", "A1L")]
            lever = Observation("lever", "A1L", {"movement_mm": 30})
            verdict = judged(vehicle(design, design, driven=(1,)), *said, lever).at("A1L")
            self.assertIn(verdict.choice.repair, ("replace_unit", "replace_bearing"))
            self.assertEqual(verdict.choice.road.key, "no", design)

    def test_a_click_with_play_never_may_be_driven(self) -> None:
        """Sealed or driven, seen moving with a click, felt while rocked or heard while spun."""
        for design, driven in (*((d, ()) for d in CLOSED), ("taper_locknut", (1,)), ("axle_retained", ())):
            for click in (
                [say("rock_12_6", "hub", "A1L", click=True), say("rock_3_9", "hub", "A1L")],
                [*(say(k, "hub", "A1L") for k in MOVES), say("spin", "clicks", "A1L")],
            ):
                found = judged(vehicle(design, design, driven=driven), *click)
                self.assertEqual(found.at("A1L").choice.road.key, "no", (design, click[0].value))

    def test_a_cartridge_with_felt_play_is_never_repacked(self) -> None:
        """In and out by hand is play; so is a trace."""
        kart = vehicle("cartridge_pair", "cartridge_pair", driven=(2,))
        rough = [say("spin", "grinds", "A1L"), say("stethoscope", "growls", "A1L")]
        for play in ([say("in_out", "moves", "A1L")], [say(k, "trace", "A1L") for k in (*MOVES, "in_out")]):
            self.assertEqual(judged(kart, *rough, *play).at("A1L").choice.choice, "replace_bearing")
        none = [say(k, "nothing", "A1L") for k in (*MOVES, "in_out")]
        self.assertEqual(judged(kart, *rough, *none).at("A1L").choice.choice, "repack")

    def test_drags_at_its_nut_before_the_slack_is_gone(self) -> None:
        """Worn: replaced, whatever else is quiet."""
        said = [say("rock_12_6", "hub", "A1L"), say("spin", "free", "A1L"), say("set_by_nut", "drags_first", "A1L")]
        self.assertEqual(judged(TANDEM, *said).at("A1L").choice.choice, "replace_bearing")

    def test_set_too_wide_behind_a_good_lock_is_adjusted(self) -> None:
        """Locked but loose is the adjust job; not locked is off the road, and its repair is named."""
        wide = Observation("part", "A1L", {"part": "nut", "finds": ["fast_wide"]})
        moves = [*(say(k, "hub", "A1L") for k in MOVES), say("spin", "free", "A1L")]
        choice = judged(TANDEM, *moves, wide).at("A1L").choice
        self.assertEqual((choice.choice, choice.off_road), ("adjust", False))
        lost = Observation("part", "A1L", {"part": "pin", "finds": ["fast_missing"]})
        choice = judged(TANDEM, *moves, lost).at("A1L").choice
        self.assertEqual((choice.choice, choice.road.key), ("off_road", "no"))
        self.assertNotEqual(choice.repair, "off_road")

    def test_normal_slack_is_no_accusation(self) -> None:
        """A trace on tapers, a little in the drag link: sound."""
        for of in (TANDEM, VAN):
            said = [say(k, "trace", "A2L") for k in (*MOVES, "in_out")] + [say("spin", "free", "A2L")]
            self.assertLess(judged(of, *said).at("A2L").belief.bearing, 0.1)
        joint = judged(CAR, say("rock_3_9", "trace", "A1L"), say("spin", "free", "A1L"))
        self.assertLess(joint.elsewhere["steering_joint"], 0.35)


class ManyAndGrave(unittest.TestCase):
    """Several faults, the gravest first, and a vehicle that is cleared only when it is."""

    def test_four_hot_dragging_trailer_hubs_are_not_left(self) -> None:
        """Never “leave it” beside “not at all”."""
        said = [say(k, a, hub) for hub in FREE for k, a in (("heat", "hot"), ("spin", "drags"))]
        found = judged(TANDEM, *said)
        self.assertNotEqual(found.decision.choice, "leave")
        self.assertTrue(all(found.at(hub).belief.of_group("sound") < 0.15 for hub in FREE))

    def test_braked_hubs_warm_against_the_air_accuse_nobody(self) -> None:
        """Four braked hubs at 50 °C, air at 20 °C."""
        said = [Observation("heat", hub, {"temp_c": 50, "ambient_c": 20}) for hub in FREE]
        found = judged(CAR, *said)
        self.assertEqual(found.culprits, ())
        self.assertLess(max(v.belief.bearing for v in found.hubs), 0.2)

    def test_the_headline_is_the_gravest_finding(self) -> None:
        """Loose nuts found by a wrench: off the road, that hub first, and named with their own chance."""
        said = [say("wheel_nuts", "loose", "A1L"), say("spring_touch", "rough", "A2L"), say("spin", "rumbles", "A2L")]
        found = judged(CAR, *said)
        self.assertEqual(
            (found.decision.hub, found.decision.choice, found.decision.grade), ("A1L", "off_road", "danger")
        )
        self.assertEqual((found.lead.hub.id, found.lead.standing), ("A1L", "danger"))
        self.assertGreater(found.at("A1L").belief.of_group("fasteners"), 0.8)
        pin = judged(TANDEM, Observation("part", "A2R", {"part": "pin", "finds": ["fast_missing"]}))
        self.assertEqual((pin.lead.hub.id, pin.lead.standing), ("A2R", "danger"))

    def test_a_mechanism_carries_its_own_chance(self) -> None:
        """Beside that of any bearing fault, and never more."""
        culprit = as_json(judged(VAN, say("opened", "marked", "A2L")))["culprits"][0]
        self.assertLess(culprit["mechanism_probability"], 0.7)
        self.assertGreater(culprit["probability"], 0.9)

    def test_leave_is_settled_only_when_nothing_wrong_is(self) -> None:
        """Falls when coasting, a helper felt no hub: the engine is likeliest, and *leave* is not settled."""
        fine = [say(k, "free" if k == "spin" else "nothing", hub) for hub in FREE for k in ("spin", *MOVES)]
        road = [say("complaint", "growl"), say("coast_test", "falls"), say("speed_test", "engine")]
        found = judged(CAR, *fine, *road)
        self.assertEqual(found.decision.choice, "look_elsewhere")
        untouched = judged(CAR, say("complaint", "nothing"))
        self.assertFalse(untouched.decision.settled)

    def test_smoke_is_the_brake_first(self) -> None:
        """A braked hub that smokes: the brake before the bearing."""
        belief = judged(CAR, say("danger_signs", "smokes", "A1L")).at("A1L").belief
        self.assertGreater(belief.of_group("brake"), belief.bearing)

    def test_set_too_tight_is_a_cause_of_its_own(self) -> None:
        """Drags, warm, no play at all, clean inside: set it, do not blame brake or burnt grease."""
        said = [
            say("spin", "drags", "A1L"), say("heat", "warm", "A1L"), say("opened", "clean", "A1L"),
            *(say(k, "nothing", "A1L") for k in (*MOVES, "in_out")), say("end_play", "none", "A1L"),
            say("brake_test", "same"),
        ]  # fmt: skip
        verdict = judged(replace(TANDEM, duty=("just_worked_on",)), *said).at("A1L")
        self.assertEqual((verdict.mechanism, verdict.choice.choice), ("too_tight", "adjust"))

    def test_what_is_heard_from_afar_contradicts_nobody(self) -> None:
        """Lines that swell in a bend may be another hub's: that this one is silent is no contradiction."""
        afar = Statement("lines_in_bends", "A2L", {"here": 1.0})
        silent = Statement("fault_lines", "A2L", {"nothing": 1.0})
        self.assertEqual(contradictions(weigh([afar, silent], CAR)), ())
        near = Statement("spin", "A2L", {"rumbles": 1.0})
        self.assertEqual([one.hub for one in contradictions(weigh([near, silent], CAR))], ["A2L"])

    def test_contradictions_within_one_kind_of_test(self) -> None:
        """Free and rumbling by two people: both stand, and it is said."""
        found = judged(CAR, say("spin", "free", "A1L"), say("spin", "rumbles", "A1L"))
        self.assertEqual([one.hub for one in found.contradictions], ["A1L"])

    def test_smaller_places_come_first_nowhere(self) -> None:
        """A trike whose one wheel comes first or last: nothing but names changes."""
        one, two = (
            Axle((Hub("A1C", "centre", "cup_cone"),)),
            Axle((Hub("A2L", "left", "cartridge_pair"), Hub("A2R", "right", "cartridge_pair"))),
        )
        said = [say("complaint", "grind"), say("spin", "grinds", "A1C")]
        self.assertAlmostEqual(judged(Vehicle((one, two)), *said).nothing, judged(Vehicle((two, one)), *said).nothing)


class NoInventedWitness(unittest.TestCase):
    """Nothing is entered that nobody said."""

    hub = Hub("A1L", "left", "taper_castle")

    def opened(self, of: Vehicle, *parts: tuple[str, str]) -> list[tuple[str, str]]:
        """Return what an inspection says, as (witness, outcome)."""
        said = [Observation("part", "A1L", {"part": part, "finds": finds.split()}) for part, finds in parts]
        return [(one.witness, one.outcome) for one in statements_of(said, of)]

    def test_gritty_is_not_clean(self) -> None:
        """Every rolling part looked at, the one find gritty: no clean grease in the mechanic's name."""
        of = vehicle("taper_castle", "taper_castle")
        parts = (
            ("outer_bearing", "turns_gritty"),
            ("outer_cup", "smooth"),
            ("inner_bearing", "turns_smooth"),
            ("inner_cup", "smooth"),
        )
        self.assertEqual(self.opened(of, *parts), [("hand_turned", "gritty")])
        both = (("outer_bearing", "turns_gritty turns_clicks"), *parts[1:])
        self.assertEqual(self.opened(of, *both), [("hand_turned", "clicks")])

    def test_nobody_sees_into_a_sealed_unit(self) -> None:
        """Turned smooth in the hand, it is smooth in the hand and no more."""
        self.assertEqual(self.opened(CAR, ("unit", "turns_smooth")), [("hand_turned", "smooth")])

    def test_clean_when_it_was_said(self) -> None:
        """Each bearing called clean, each cup smooth."""
        of = vehicle("taper_castle", "taper_castle")
        parts = (
            ("outer_bearing", "clean"),
            ("outer_cup", "smooth"),
            ("inner_bearing", "clean"),
            ("inner_cup", "smooth"),
        )
        self.assertEqual(self.opened(of, *parts), [("opened", "clean")])
        self.assertTrue(inspected([], of)["A1L"].clean is False)


class Prices(unittest.TestCase):
    """What is ruled out is not ranked."""

    def test_leave_is_possible_only_where_the_road_is_free(self) -> None:
        """Never cheapest beside “gently” or “not at all”."""
        for said in ([say("opened", "marked", "A1L")], [say("danger_signs", "wobbles", "A1L")]):
            choice = judged(TANDEM, *said).at("A1L").choice
            leave = next(one for one in choice.alternatives if one.choice == "leave")
            self.assertNotEqual(choice.road.key, "drive")
            self.assertFalse(leave.possible)


class NextKnows(unittest.TestCase):
    """What is apart, refused, and what this vehicle cannot have."""

    def test_an_open_hub_is_asked_what_it_shows(self) -> None:
        """No wheel to rock or spin, nothing to record there."""
        said = [say("spin", "rumbles", "A1L"), Observation("part", "A1L", {"part": "pin", "finds": ["fast_good"]})]
        following = judged(TANDEM, *said).next_test
        if following.hub == "A1L":
            self.assertEqual(following.stage, "open")

    def test_a_recorder_refused_once_is_refused(self) -> None:
        """At every hub."""
        said = [Observation("fault_lines", "A1L", {"answer": "not_done"})]
        for _ in range(12):
            following = judged(CAR, *said).next_test
            self.assertNotEqual(following.test, "fault_lines")
            if following.test == "decide":
                break
            said.append(Observation(following.test, following.hub or "", {"answer": "unsure"}))
