"""Evidence, verdict, jobs: the tables themselves, and cases told in the trade's terms (common practice, no source)."""

import unittest

from hematite.beliefs import HubBelief, weigh
from hematite.evidence import Observation, Statement
from hematite.evidence.witnesses import causes, group, states, witnesses
from hematite.hubs import designs
from hematite.upkeep import rechecks
from hematite.vehicles import Axle, Hub, Vehicle
from hematite.verdict import as_json, assess, choices
from hypothesis import given
from hypothesis import strategies as st

ADJUSTABLE = [key for key, design in designs().items() if design.adjusts]


def van(design: str = "hub_unit") -> Vehicle:
    """Return four hubs of one design."""
    axles = tuple(
        Axle((Hub(f"A{n}L", "left", design), Hub(f"A{n}R", "right", design)), driven=n == 1, steered=n == 1)
        for n in (1, 2)
    )
    return Vehicle(axles=axles, label="van")


def found(hub: str, **answers: str) -> list[Observation]:
    """Return observations at a hub, by kind."""
    return [Observation(kind, hub, {"answer": answer}) for kind, answer in answers.items()]


def dial(hub: str, *readings: float) -> Observation:
    """Return dial readings at a hub."""
    return Observation("end_play", hub, {"readings_mm": list(readings)})


class Tables(unittest.TestCase):
    """Gaps and contradictions in the data."""

    def test_every_row_adds_up(self) -> None:
        """Chances add up to one, none is impossible, words stand for all, and rows speak of what exists."""
        for key, row in (witnesses() | states()).items():
            names = row.get("outcomes") or row["values"]
            self.assertEqual(len(names), len(row.get("words", names)), key)
            known = {"base", *self.keys(row)}
            for cause, chances in row["chances"].items():
                with self.subTest(key, cause=cause):
                    self.assertIn(cause, known)
                    self.assertEqual(len(chances), len(names))
                    self.assertAlmostEqual(sum(chances), 1.0, places=6)
                    self.assertGreater(min(chances), 0.0)
            self.assertTrue("base" in row["chances"] or "base_by_slack" in row or "against" in row, key)
        self.assertLess(sum(row["prior"] for row in causes().values()), 1.1)

    def keys(self, row: dict) -> set[str]:
        """Return what the rows of a witness, or of a hidden thing, may speak of."""
        against = row.get("against", "")
        if against in states():
            values = states()[against]["values"]
            return {f"{own}, {mate}" for own in values for mate in values}
        if "reads" in row:
            return {f"{thing}.{value}" for thing in group(row["reads"]) for value in states()[thing]["values"][1:]}
        return set(causes())

    def test_every_choice_has_a_recheck(self) -> None:
        """At some day."""
        for choice in choices():
            after = rechecks(van("taper_castle"), [("A1L", choice)])
            self.assertTrue(after and all(one.days >= 1 for one in after), choice)


def at_one_hub(*said: Statement) -> HubBelief:
    """Return the beliefs about the front left hub of a van."""
    return weigh(said, van()).hubs["A1L"]


class Weighing(unittest.TestCase):
    """Bayes' rule over the table."""

    @given(st.permutations([("spin", "rumbles"), ("level", "loud"), ("end_play", "within"), ("rock_12_6", "nothing")]))
    def test_order_never_matters(self, order: list[tuple[str, str]]) -> None:
        """Any order of the same statements gives the same beliefs."""
        said = [Statement(witness, "A1L", {outcome: 1.0}) for witness, outcome in order]
        reference = weigh(sorted(said, key=lambda s: s.witness), van()).hubs["A1L"]
        self.assertAlmostEqual(weigh(said, van()).hubs["A1L"].bearing, reference.bearing, places=12)

    def test_doubt_weighs_less(self) -> None:
        """A doubtful outer-race line raises the odds, but less than a sure one."""
        none, half, sure = (
            at_one_hub(Statement("fault_lines", "A1L", {"outer_race": s, "nothing": 1 - s})).bearing
            for s in (0.01, 0.5, 0.99)
        )
        self.assertTrue(none < half < sure)


class TradeCases(unittest.TestCase):
    """Told as a mechanic would; common practice, no source."""

    def verdict(self, design: str, *observations: Observation):
        """Return the verdict at the most suspect hub."""
        return assess(van(design), [], list(observations)).lead

    def test_failed_for_a_ball_joint_yet_only_the_nut_loose(self) -> None:
        """The disc moved, not the joint, and it vanished with the brake held: adjust, do not blame the joint."""
        lead = self.verdict(
            "taper_castle",
            *found("A1R", rock_12_6="hub", brake_held="vanishes", spin="free"),
            dial("A1R", 0.31, 0.29, 0.30),
        )
        self.assertEqual((lead.hub.id, lead.cause, lead.mechanism), ("A1R", "bearing", "loose"))
        self.assertEqual(lead.choice.choice, "adjust")

    def test_the_joint_moves(self) -> None:
        """It rolls free, the knuckle moved against its arm and stayed with the brake held: look elsewhere."""
        rocked = found("A1L", rock_12_6="joint", rock_3_9="nothing", brake_held="stays", lever="much", spin="free")
        lead = self.verdict("hub_unit", *rocked)
        self.assertEqual((lead.cause, lead.choice.choice), ("ball_joint", "look_elsewhere"))

    def test_no_play_never_clears_a_noisy_bearing(self) -> None:
        """It rumbles and grinds in the hand but has no play: still the bearing."""
        quiet_dial = dial("A1L", 0.0, 0.0, 0.01)
        with_play = self.verdict("hub_unit", *found("A1L", spin="rumbles"))
        without = self.verdict("hub_unit", *found("A1L", spin="rumbles"), quiet_dial)
        self.assertEqual(without.cause, with_play.cause)
        self.assertGreater(without.belief.bearing, 0.75 * with_play.belief.bearing)

    def test_a_trace_of_play_on_tapers_is_normal(self) -> None:
        """0.07 mm on a taper: leave. The same in a sealed unit with a rumble: replace the unit."""
        self.assertEqual(self.verdict("taper_castle", dial("A1L", 0.07, 0.06, 0.07)).choice.choice, "leave")
        worn = self.verdict("hub_unit", dial("A1L", 0.17, 0.16, 0.17), *found("A1L", spin="rumbles"))
        self.assertEqual(worn.choice.choice, "replace_unit")

    def test_brake_scrape(self) -> None:
        """A scrape once a turn by hand, no play: the brake is suspected before the bearing."""
        beliefs = self.verdict("hub_unit", *found("A1R", spin="scrapes", spring_touch="smooth")).belief
        self.assertGreater(beliefs.of_group("brake"), 2 * beliefs.bearing)

    def test_opened_finds(self) -> None:
        """Milky → replace with seal; metal in a unit without play → replace it; dry but unmarked → repack."""
        cases = [
            ("taper_castle", {"opened": "milky"}, "replace_bearing"),
            ("hub_unit", {"opened": "metal"}, "replace_unit"),
            ("taper_clamp", {"opened": "dry", "spin": "grinds"}, "repack"),
            ("cartridge_pair", {"opened": "dry", "spin": "grinds"}, "repack"),
            ("taper_pressurised", {"opened": "burnt"}, "replace_bearing"),
        ]
        for design, answers, choice in cases:
            with self.subTest(design, **answers):
                self.assertEqual(self.verdict(design, *found("A1L", **answers)).choice.choice, choice)

    def test_drags_before_the_slack_is_gone(self) -> None:
        """Loose and dragging: the bearing is worn, replace."""
        lead = self.verdict("taper_castle", dial("A1L", 0.3, 0.31, 0.3), *found("A1L", spin="drags", rock_12_6="hub"))
        self.assertEqual(lead.choice.choice, "replace_bearing")

    def test_clicks_with_great_play(self) -> None:
        """Off the road now."""
        lead = self.verdict("hub_unit", dial("A1L", 1.2, 1.3, 1.2), *found("A1L", spin="clicks"))
        self.assertEqual(lead.choice.choice, "off_road")

    def test_two_bad_hubs(self) -> None:
        """Both of an axle are named."""
        both = [*found("A2L", opened="marked"), *found("A2R", opened="marked")]
        culprits = assess(van("taper_clamp"), [], both).culprits
        self.assertEqual({culprit.hub for culprit in culprits}, {"A2L", "A2R"})

    def test_nothing_wrong(self) -> None:
        """Everything spun free: nobody is accused."""
        everything = [o for hub in ("A1L", "A1R", "A2L", "A2R") for o in found(hub, spin="free", rock_12_6="nothing")]
        assessment = assess(van("taper_castle"), [], everything)
        self.assertEqual(assessment.culprits, ())
        self.assertEqual(assessment.lead.choice.choice, "leave")

    def test_could_not_tell_is_not_fine(self) -> None:
        """“Could not tell” changes nothing; “free” lowers suspicion."""
        start, unsure, free = (
            assess(van(), [], observations).hubs
            for observations in ([], found("A1L", spin="unsure"), found("A1L", spin="free"))
        )
        by_id = [next(v for v in hubs if v.hub.id == "A1L").belief.bearing for hubs in (start, unsure, free)]
        self.assertEqual(by_id[0], by_id[1])
        self.assertLess(by_id[2], by_id[0])

    def test_next_test(self) -> None:
        """An empty case asks for a test that exists, at a hub; a settled one says to decide."""
        first = as_json(assess(van(), [], []))["next_test"]
        self.assertIn(first["test"], witnesses())
        self.assertIn(first["hub"], (None, "A1L", "A1R", "A2L", "A2R"))
        settled = [*found("A1L", opened="marked", spin="grinds")]
        self.assertEqual(as_json(assess(van("taper_clamp"), [], settled))["next_test"]["test"], "decide")
