"""The rules of choice over the whole space of designs and findings: no gap, no contradiction, nothing impossible."""

import itertools
import unittest

from hematite.decision.facts import SCHOOLS
from hematite.decision.rules import as_rule, besides, decided, domains, replacements, rules
from hematite.errors import HematiteError
from hematite.evidence.witnesses import causes
from hematite.hubs import designs
from hematite.inspection import FACTS
from hematite.policy import schools
from hematite.tables import table
from hematite.verdict import choices
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.rule_space import meet, outcomes, region

REPLACES = {"replace_bearing", "replace_unit"}
FATAL = ("water", "rust", "metal", "heat", "marked", "cracked", "seat_worn")
DANGERS = [danger for danger in domains()["danger"] if danger != "none"]
DRAWN = st.fixed_dictionaries({name: st.sampled_from(values) for name, values in domains().items()})


class WholeSpace(unittest.TestCase):
    """Proved by cutting the space into boxes; the space has some two thousand million cells."""

    def test_facts_are_the_tables_own(self) -> None:
        """Designs, causes at a hub, schools and finds are those of the tables they come from."""
        self.assertEqual(set(domains()["design"]), set(designs()))
        self.assertEqual(set(domains()["cause"]), {key for key, row in causes().items() if row["at"] != "vehicle"})
        self.assertEqual(set(domains()["rusted_unit"]), {option.key for option in schools()["rusted_unit"].options})
        self.assertLessEqual(set(FATAL), set(FACTS))

    def test_no_gap(self) -> None:
        """Everywhere in the space at least one rule fires, and `replace` always means one thing."""
        self.assertEqual(outcomes(region()) - set(choices()), set())

    def test_no_contradiction(self) -> None:
        """Two rules of one level with different choices never fire together; nor do two meanings of `replace`."""
        for one, other in itertools.combinations(rules(), 2):
            if one.level == other.level and one.choice != other.choice:
                self.assertIsNone(meet(meet(region(), one.box) or {}, other.box), (one.id, other.id))
        for one, other in itertools.combinations(replacements(), 2):
            self.assertIsNone(meet(meet(region(), one.box) or {}, other.box), (one.id, other.id))

    def test_every_rule_can_decide(self) -> None:
        """No rule is dead: somewhere its level is the highest that fires."""
        for rule in rules():
            higher = [other for other in rules() if other.level > rule.level]
            self.assertIn("GAP", outcomes(meet(region(), rule.box) or {}, higher), rule.id)

    def test_never_adjust_or_repack_what_cannot_be(self) -> None:
        """By design, over everything else."""
        for key, design in designs().items():
            possible = outcomes(region(design=key))
            self.assertTrue(design.adjusts or "adjust" not in possible, key)
            self.assertTrue(design.repacks or "repack" not in possible, key)

    def test_finds_that_always_mean_replace(self) -> None:
        """Water, rust, metal, heat, a marked race, a crack or a worn seat, whatever else is or is not found."""
        for fact in FATAL:
            self.assertLessEqual(outcomes(region(**{fact: True})), REPLACES, fact)

    def test_a_unit_is_replaced_only_where_there_is_one(self) -> None:
        """With good seats only a bolted unit, or a knuckle bought in ready."""
        for key in designs():
            for way in domains()["rusted_unit"]:
                possible = outcomes(region(design=key, seat_worn=False, rusted_unit=way))
                whole = (key == "hub_unit" and way != "press") or (key, way) == ("pressed_double_row", "knuckle")
                self.assertEqual("replace_unit" in possible, whole, (key, way))

    def test_danger_never_stays_on_the_road(self) -> None:
        """A sign of danger: off the road, or replaced off the road; never left, adjusted or repacked."""
        for danger in DANGERS:
            self.assertLessEqual(outcomes(region(danger=danger)), REPLACES | {"off_road"}, danger)
        self.assertLessEqual(outcomes(region(play="gross", click=True)), REPLACES | {"off_road"})
        roads = [rule.box for rule, row in besides("road") if row["road"] == "no"]
        for when in ({"danger": DANGERS}, {"heat": True}, {"cracked": True}):
            sure = region(**when)
            self.assertTrue(
                any(all(sure[n] <= b[n] for n in b if n in sure) and set(b) <= set(sure) for b in roads), when
            )

    def test_a_taper_set_and_its_seal_go_together(self) -> None:
        """Whatever was found: a replaced taper is cup and cone with a new seal; a repacked one has a new seal."""
        rows = {rule.id: rule.box for rule, _ in besides("also")}
        tapers = {key for key, design in designs().items() if design.taper}
        self.assertEqual(set(rows["taper-pair"]), {"choice", "design"})
        self.assertLessEqual(tapers, rows["taper-pair"]["design"])
        self.assertLessEqual(REPLACES, rows["taper-pair"]["choice"])
        self.assertEqual(set(rows["seal-with-repack"]), {"choice", "design"})
        self.assertLessEqual(tapers, rows["seal-with-repack"]["design"])

    def test_a_cartridge_with_play_is_never_greased(self) -> None:
        """Nor anything that drags before its slack is gone set."""
        bearing = [cause for cause, row in causes().items() if row["group"] == "bearing"]
        worn = region(design="cartridge_pair", cause=bearing, play=["clear", "gross"])
        self.assertLessEqual(outcomes(worn), REPLACES | {"off_road"})
        binds = region(cause=bearing, adjusts=["nut", "shims"], play=["clear", "gross"], spin=["drags", "grinds"])
        self.assertLessEqual(outcomes(binds), REPLACES | {"off_road"})


class Evaluator(unittest.TestCase):
    """The evaluator, against the boxes and against the table's own text."""

    @settings(max_examples=300, deadline=None)
    @given(DRAWN)
    def test_agrees_with_the_boxes(self, facts: dict) -> None:
        """One cell of the space: the evaluator's one choice is the boxes' one choice."""
        cell = {name: frozenset([value]) for name, value in facts.items()}
        self.assertEqual({decided(facts)[2]}, outcomes(cell))

    @settings(max_examples=300, deadline=None)
    @given(DRAWN)
    def test_agrees_with_a_slow_twin(self, facts: dict) -> None:
        """Slow twin: the conditions read straight from the table, the highest level taken by hand."""
        text = table("decision/rules.toml")
        bearing = [cause for cause, row in causes().items() if row["group"] == "bearing"]

        def holds(name: str, wanted: object) -> bool:
            values = wanted if isinstance(wanted, list) else [wanted]
            values = [v for value in values for v in (bearing if value == "@bearing" else [value])]
            known = getattr(designs()[facts["design"]], name) if name in ("adjusts", "repacks") else facts[name]
            return known in values

        fired = [row for row in text["rule"] if all(holds(name, wanted) for name, wanted in row["when"].items())]
        top = max(text["levels"][row["level"]] for row in fired)
        (choice,) = {row["choice"] for row in fired if text["levels"][row["level"]] == top}
        if choice == "replace":
            (choice,) = [
                row["choice"]
                for row in text["with"]
                if all(holds(name, wanted) for name, wanted in row["when"].items())
            ]
        self.assertEqual(decided(facts)[2], choice)

    def test_every_rule_says_why_and_what_would_change_it(self) -> None:
        """In words, once each; ids stay unique."""
        self.assertEqual(len({rule.id for rule in rules()}), len(rules()))
        for rule in rules():
            self.assertTrue(rule.because.endswith(".") and rule.change.endswith("."), rule.id)

    def test_the_rows_beside_name_what_exists(self) -> None:
        """Facts, values and choices of besides.toml are known; a misspelt fact would never hold."""
        known = domains() | {
            "choice": tuple(choices()), "road": ("drive", "unknown", "gently", "no"), "open": (False, True),
            **dict.fromkeys(FACTS, (False, True)),
            **{key: tuple(option.key for option in schools()[key].options) for key in SCHOOLS},
        }  # fmt: skip
        for name in ("also", "against", "road"):
            for rule, row in besides(name):
                for fact, allowed in rule.box.items():
                    self.assertLessEqual(allowed, set(known[fact]), (name, row))

    def test_a_fact_that_is_not_there_is_refused(self) -> None:
        """A rule with a misspelt value is caught when the table is read."""
        with self.assertRaisesRegex(HematiteError, "no table lists"):
            as_rule({"id": "x", "choice": "leave", "when": {"spin": "purrs"}}, 1)
