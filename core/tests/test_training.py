"""The trainer: what is drawn, what hands find of it, how answers are marked and scored, and whether it can be told."""

import itertools
import unittest
from collections import Counter

import numpy as np
from bench.plain import Plain
from hematite.errors import HematiteError
from hematite.evidence import Observation, statements
from hematite.evidence.witnesses import states
from hematite.inspection import read_part
from hematite.play import far_over_mm
from hematite.policy import Policy, read_policy
from hematite.training import Truth, draw, levels, mark, observe, options, score, topics, vehicle_of
from hematite.training.commands import tally
from hematite.training.hands import can_be_felt, felt, seen, strokes_mm
from hematite.training.levels import topic
from hematite.training.marking import asked_at, right_choice
from hematite.training.nuts import stands_mm
from hematite.training.observer import looked
from hematite.training.rounds import compose, level_after
from hematite.training.scoring import interval, lean, parts
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import stats
from sklearn.calibration import calibration_curve
from sklearn.metrics import brier_score_loss, log_loss
from statsmodels.stats.proportion import proportion_confint

SAID = st.lists(st.tuples(st.sampled_from([0.25, 0.5, 0.65, 0.8, 0.9, 0.97]), st.booleans()), min_size=2, max_size=60)
EVERY = [(key, matter) for key, row in topics().items() for matter in row.matters]


class Scoring(unittest.TestCase):
    """Against scikit-learn 1.9 and statsmodels: reference implementations by others."""

    @given(SAID)
    @settings(max_examples=60, deadline=None)
    def test_as_the_libraries_reckon(self, said: list[tuple[float, bool]]) -> None:
        """Brier's and the logarithmic score, shares by degree of sureness, and Jeffreys intervals."""
        found = score(said)
        assert found is not None
        sure, right = [p for p, _ in said], [so for _, so in said]
        self.assertAlmostEqual(found.brier, brier_score_loss(right, sure, pos_label=True), 12)
        self.assertAlmostEqual(found.log, log_loss(right, sure, labels=[False, True]), 12)
        if len(set(right)) == 2:
            shares, means = calibration_curve(right, sure, n_bins=100)
            self.assertTrue(np.allclose([one.share for one in found.held], shares))
            self.assertTrue(np.allclose([one.said for one in found.held], means))
        for one in found.held:
            low, high = proportion_confint(one.right, one.of, alpha=0.1, method="jeffreys")
            if 0 < one.right < one.of:  # at either end ours is open, as Brown, Cai and DasGupta have it
                self.assertTrue(np.allclose([one.low, one.high], [low, high]))

    @given(SAID)
    @settings(max_examples=60, deadline=None)
    def test_murphys_parts_make_the_score(self, said: list[tuple[float, bool]]) -> None:
        """Reliability less resolution with uncertainty is Brier's score (Murphy 1973)."""
        reliability, resolution, uncertainty = parts(said)
        self.assertAlmostEqual(reliability - resolution + uncertainty, np.mean([(p - so) ** 2 for p, so in said]), 12)

    @given(st.floats(0.05, 0.95), st.floats(0.05, 0.95))
    def test_it_pays_to_say_what_one_believes(self, believed: float, said: float) -> None:
        """Both scores are proper: expected under one's belief, nothing scores better than the belief itself."""

        def expected(rule: str, p: float) -> float:
            both = [(score([(p, so)]), believed if so else 1 - believed) for so in (True, False)]
            return sum(getattr(one, rule) * weight for one, weight in both if one)

        for rule in ("brier", "log"):
            self.assertLessEqual(expected(rule, believed), expected(rule, said) + 1e-12)

    def test_what_little_proves_nothing(self) -> None:
        """Nine answers tell nothing of a lean; thirty that are right half as often as said tell it; ends are open."""
        self.assertEqual(lean([(0.9, False)] * 9), "")
        self.assertEqual(lean([(0.9, n % 2 == 0) for n in range(30)]), "over")
        self.assertEqual(lean([(0.5, True)] * 30), "under")
        self.assertEqual(lean([(0.8, n % 5 != 0) for n in range(30)]), "")
        self.assertEqual((interval(0, 4)[0], interval(4, 4)[1]), (0.0, 1.0))
        self.assertIsNone(score([]))


class Drawing(unittest.TestCase):
    """Every question that there is."""

    def test_every_matter_at_every_level(self) -> None:
        """The same seed is the same truth; it can be kept; it sits where it can; its play is what its word says."""
        for (key, matter), number in itertools.product(EVERY, levels()):
            for seed in (1, 2):
                name, truth = draw(key, matter, number=number, seed=seed)
                self.assertEqual(draw(key, matter, number=number, seed=seed), (name, truth))
                self.assertEqual(Truth.from_json(truth.to_json()), truth)
                self.assertIn(name, levels()[number].vehicles)
                vehicle = vehicle_of(name)
                told = topics()[key].matters[matter]
                self.assertEqual(dict(truth.causes), {truth.at: told.cause} if told.cause else {})
                for hub in vehicle.hubs():
                    self._plays(truth, hub.id, hub.play_window_mm)

    def _plays(self, truth: Truth, hub: str, window: tuple[float, float]) -> None:
        low, high = window
        edges = {"none": (0, max(low, 0.006)), "trace": (min(low, 0.005), max(high, 0.01))}
        edges |= {"clear": (high, far_over_mm(high)), "gross": (far_over_mm(high), 9.0)}
        least, most = edges[truth.values[hub]["hub_play"]]
        self.assertTrue(least <= truth.play_mm[hub] <= most, (truth, hub))

    def test_it_is_drawn_by_the_workshops_windows(self) -> None:
        """By a workshop's narrower limits what is inside a window is inside theirs, and a nut can be set by it."""
        limits = {
            design: {"least_mm": 0.0, "most_mm": 0.03, "source": "ours"}
            for design in ("taper_castle", "taper_pressurised", "taper_clamp", "taper_locknut")
        }
        policy = read_policy({"limits": limits})
        for seed in range(20):
            _, truth = draw("play", "trace", number=2, seed=seed, policy=policy)
            self.assertTrue(0 < truth.play_mm[truth.at] <= 0.03, truth)
            name, truth = draw("setting", "free", number=3, seed=seed, policy=policy)
            vehicle = policy.limited(vehicle_of(name))
            found = observe(truth, vehicle)
            low, high = vehicle.hub(truth.at).play_window_mm
            if "next_deg" in truth.nut:
                nut = found.given["nut"] | {"angle_deg": truth.nut["next_deg"]}
                self.assertLessEqual(stands_mm(truth, vehicle.hub(truth.at), nut), high)
            self.assertEqual((low, high), (0.0, 0.03))

    def test_unknown_names_are_refused(self) -> None:
        """A topic, a matter, a level that no table lists."""
        for arguments in (("x", "", 1), ("corner", "x", 1), ("corner", "", 9)):
            with self.assertRaises(HematiteError):
                draw(arguments[0], arguments[1], number=arguments[2], seed=1)

    def test_every_answer_of_the_hands_is_one_of_the_test(self) -> None:
        """What is felt and seen can be logged as it stands; asked again it is the same."""
        for seed, number in itertools.product(range(6), levels()):
            name, truth = draw("decide", number=number, seed=seed)
            vehicle = vehicle_of(name)
            for hub in vehicle.hubs():
                for kind in ("spin", "rock_12_6", "in_out", "heat", "danger_signs", "stethoscope", "coast_down"):
                    answer = felt(truth, vehicle, kind, hub.id)
                    self.assertEqual(felt(truth, vehicle, kind, hub.id), answer)
                    statements(Observation(kind, hub.id, {"answer": answer}), vehicle)
            for kind in ("speed_test", "brake_test"):
                statements(Observation(kind, "", {"answer": felt(truth, vehicle, kind, "")}), vehicle)
        for kind in ("opened", "fault_lines", "complaint", "brake_held"):
            self.assertFalse(can_be_felt(kind))

    def test_hands_err_as_often_as_the_tables_say(self) -> None:
        """A thousand drawn hubs against a plain reading of the same tables, by other code (chi-squared)."""
        plain = Plain()
        for kind, thing, value in (("spin", "rough", "rough"), ("rock_12_6", "hub_play", "clear")):
            found: Counter[str] = Counter()
            many = 1000
            name, truth = draw("decide", "outer_race", number=2, seed=1)
            hidden = {key: row["values"][0] for key, row in states().items()} | {thing: value}
            values = {**truth.values, truth.at: hidden}
            for seed in range(many):
                drawn = Truth.from_json(truth.to_json() | {"seed": seed, "values": values})
                found[felt(drawn, vehicle_of(name), kind, truth.at)] += 1
            showing = [f"{key}.{own}" for key, own in hidden.items()]
            names = plain.answers(kind)
            expected = np.array([plain.answer_chance(kind, showing, n) for n in range(len(names))]) * many
            enough = expected >= 5
            seen_ = np.array([found[one] for one in names])
            fit = stats.chisquare(
                [*seen_[enough], seen_[~enough].sum() + 1e-9], [*expected[enough], expected[~enough].sum() + 1e-9]
            )
            self.assertGreater(fit.pvalue, 0.001, (kind, found))

    def test_strokes_lie_around_the_play(self) -> None:
        """A dial's strokes scatter by some hundredths and are never below nothing."""
        _, truth = draw("play", "clear", number=2, seed=4)
        strokes = strokes_mm(truth, truth.at)
        self.assertAlmostEqual(float(np.mean(strokes)), truth.play_mm[truth.at], delta=0.01)
        self.assertNotEqual(strokes, strokes_mm(truth, truth.at, first=12))
        self.assertGreaterEqual(min(strokes), 0)

    def test_parts_show_what_is_inside(self) -> None:
        """Every part's finds go together; clean hubs are clean, and others show it at one part or two."""
        for matter, number in itertools.product(topics()["opened"].matters, levels()):
            name, truth = draw("opened", matter, number=number, seed=7)
            vehicle = vehicle_of(name)
            hub = vehicle.hub(truth.at)
            assert hub is not None
            found = looked(truth, vehicle, hub.id)
            finds = [find for one in found for find in read_part(one.value, hub).finds]
            bad = [find for find in finds if not find.fine and not find.hand]
            self.assertEqual(bool(bad), matter != "clean", (matter, bad))
            self.assertLessEqual(len(bad), 2)
            with self.assertRaises(HematiteError):
                seen(truth, hub, "wing")


class Marking(unittest.TestCase):
    """Right, wrong, and what it would have done."""

    def test_just_one_answer_is_right(self) -> None:
        """Of every question that names one answer one is right, and what is told is that one."""
        for key, matter in EVERY:
            if key in ("setting", "order"):
                continue
            name, truth = draw(key, matter, number=1, seed=3)
            vehicle = vehicle_of(name)
            found = looked(truth, vehicle, truth.at) if key == "opened" else []
            marks = {one.key: mark(truth, vehicle, found, hub=truth.at, key=one.key) for one in options(truth, vehicle)}
            right = [given for given, how in marks.items() if how.right]
            self.assertEqual(right, [next(iter(marks.values())).key], (key, matter))
            self.assertEqual(asked_at(truth) != "", key in ("play", "opened", "setting", "order"))

    def test_harm(self) -> None:
        """To leave what must be replaced is a danger, at another hub too; to replace what is sound a waste."""
        name, truth = draw("decide", "outer_race", number=1, seed=3)
        vehicle = vehicle_of(name)
        best, _ = right_choice(truth, vehicle, (), Policy())
        other = next(hub.id for hub in vehicle.hubs() if hub.id != truth.at)
        for hub, key, harm in ((truth.at, "leave", "danger"), (other, best, "danger"), (truth.at, best, "")):
            self.assertEqual(mark(truth, vehicle, (), hub=hub, key=key).harm, harm)
        name, truth = draw("decide", "sound", number=1, seed=3)
        self.assertEqual(mark(truth, vehicle_of(name), (), hub="A1L", key="replace_unit").harm, "waste")
        self.assertTrue(mark(truth, vehicle_of(name), (), hub="", key="leave").right)
        with self.assertRaises(HematiteError):
            mark(truth, vehicle_of(name), (), hub="A9L", key="replace_unit")

    def test_a_question_does_not_name_what_it_hides(self) -> None:
        """Neither its words nor the vehicle's are those of a matter."""
        for key, matter in EVERY:
            name, truth = draw(key, matter, number=1, seed=3)
            words = f"{topic(key).ask} {vehicle_of(name).label} {truth.complaint['text']}".lower()
            self.assertNotIn(topic(key).matters[matter].label.lower(), words)


class Rounds(unittest.TestCase):
    """What a round holds, and when somebody moves up."""

    def test_due_first_then_new(self) -> None:
        """Five, each once; what is due is in it; of a topic with fewer matters some come twice."""
        due = [("play", "clear"), ("corner", "outer_race")]
        for seed in range(20):
            made = compose(due, [*due, ("decide", "sound")], seed=seed)
            self.assertEqual((len(made), len(set(made))), (5, 5))
            self.assertTrue(set(due) <= set(made))
            self.assertNotIn(("decide", "sound"), made)
        self.assertEqual(len(compose([], [], topic="play", seed=1)), 5)
        self.assertEqual(len(compose(EVERY, EVERY, seed=1)), 5)

    def test_real_work_comes_once(self) -> None:
        """The workshop's own cases are new like any other, due again by themselves, and never twice in one round."""
        own = [("real", "a"), ("real", "b")]
        self.assertEqual(sorted(compose([], [], topic="real", seed=1, own=own)), own)
        self.assertEqual(compose([], [], topic="real", seed=1), [])
        self.assertEqual(compose([("real", "gone")], EVERY, topic="play", seed=1, own=own).count(("real", "gone")), 0)
        self.assertTrue(set(own) <= set(compose(own, EVERY, seed=1, own=own)))

    def test_moving(self) -> None:
        """Up after five of six, down after two of six, within the levels; what was answered lower does not count."""
        self.assertEqual(level_after([]), 1)
        self.assertEqual(level_after([(1, True)] * 5), 1)
        self.assertEqual(level_after([*[(1, True)] * 5, (1, False)]), 2)
        self.assertEqual(level_after([*[(2, True)] * 2, *[(2, False)] * 4]), 1)
        self.assertEqual(level_after([(3, True)] * 20), 3)
        self.assertEqual(level_after([*[(1, True)] * 6, (2, True)]), 2)


class Answerable(unittest.TestCase):
    """The bench itself, knowing no more than can be found, is far better than chance. `make bench` has more of them."""

    def test_better_than_chance(self) -> None:
        """At every level of what needs no sound; at the first of what does."""
        rows = [(key, number, 12) for key in ("play", "opened", "order") for number in levels()]
        rows += [("setting", number, 12) for number in levels()]
        for key, number, many in [*rows, ("decide", 1, 5), ("corner", 1, 3)]:
            found = tally(key, number, many, seed=100)
            self.assertGreater(found["share"], min(2 * found["chance"], 0.9), (key, number))
