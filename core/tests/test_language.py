"""Words in another language: found, with figures as it writes them, and nothing but words changed by it."""

import tempfile
import threading
import unittest
from functools import partial
from pathlib import Path

from hematite import language
from hematite.assembly.parts import library
from hematite.bundles import vehicle_from_json
from hematite.errors import BadQuantity
from hematite.evidence import Observation
from hematite.language import also_in, figure, languages, later, say, small, speaking, spoken, words_once
from hematite.setting.nut import back_off
from hematite.tables import prose_of, table, tables
from hematite.units import shown
from hematite.verdict import assess

VAN = {
    "axles": [
        {
            "driven": n == 1,
            "steered": n == 1,
            "hubs": [
                {"id": f"A{n}{side[0].upper()}", "side": side, "design": "taper_castle"} for side in ("left", "right")
            ],
        }
        for n in (1, 2)
    ],
}


class Languages(unittest.TestCase):
    """German, and a language that a test makes up."""

    def test_english_where_nobody_wrote_another(self) -> None:
        """A text without a translation is said in English; so is a language that nobody knows."""
        with speaking("de"):
            self.assertEqual(say("No catalogue has this, of {n:.1f} mm", n=0.5), "No catalogue has this, of 0,5 mm")
        with speaking("xx"):
            self.assertEqual((spoken(), say("Replace the bearing")), ("en", "Replace the bearing"))
        self.assertEqual(spoken(), "en")

    def test_a_catalogue_of_a_program_of_its_own(self) -> None:
        """A folder that was told of is looked in, and its languages count."""
        before = list(language._folders)
        with tempfile.TemporaryDirectory() as made:
            header = 'msgid ""\nmsgstr ""\n"Content-Type: text/plain; charset=utf-8\\n"\n\n'
            (Path(made) / "fr.po").write_text(f'{header}msgid "Say {{n}} times"\nmsgstr "Dire {{n}} fois"\n')
            also_in(Path(made))
            try:
                self.assertIn("fr", languages())
                with speaking("fr"):
                    self.assertEqual(say(later("Say {n} times"), n=1234), "Dire 1234 fois")
            finally:
                language._folders[:] = before
                language._catalogue.cache_clear()
        self.assertNotIn("fr", languages())

    def test_figures_as_the_language_writes_them(self) -> None:
        """Decimal and grouping marks; a word that holds a point is no figure (CLDR, by Babel)."""
        with speaking("de"):
            self.assertEqual(figure(1234.5, ",.2f"), "1.234,50")
            self.assertEqual(say("{low} to {high} {unit}", low="M8×1.25", high=0.25, unit="mm"), "M8×1.25 bis 0,25 mm")
            self.assertEqual(shown(0.0003, quantity="length", unit="mm"), "0,300 mm")
        self.assertEqual(
            (figure(1234.5, ",.2f"), shown(0.0003, quantity="length", unit="mm")), ("1,234.50", "0.300 mm")
        )

    def test_mid_sentence(self) -> None:
        """English begins small in mid-sentence; German nouns do not."""
        self.assertEqual(small("Replace the bearing"), "replace the bearing")
        with speaking("de"):
            self.assertEqual(small("Lager"), "Lager")

    def test_each_thread_speaks_its_own(self) -> None:
        """Two who are answered at once do not hear each other's language."""
        heard = []
        with speaking("de"):
            other = threading.Thread(target=lambda: heard.append(spoken()))
            other.start()
            other.join()
            self.assertEqual((spoken(), heard), ("de", ["en"]))

    def test_kept_for_each_language(self) -> None:
        """What is kept with words in it is kept for each language."""
        made = words_once(lambda: (spoken(), object()))
        first = made()
        with speaking("de"):
            self.assertEqual(made()[0], "de")
            self.assertIs(made(), made())
        self.assertIs(made(), first)
        self.assertNotEqual(library()["hub"].label, _in_german(lambda: library()["hub"].label))

    def test_a_refusal(self) -> None:
        """Said in the language of whoever asked."""
        with speaking("de"), self.assertRaisesRegex(BadQuantity, "mehr als 2 Umdrehungen"):
            back_off(800)

    def test_tables_differ_in_words_only(self) -> None:
        """Keys, figures, and every text that a rule reads are the same in every language."""
        for name in tables():
            english, german = table(name), _in_german(partial(table, name))
            said = {words: _in_german(partial(say, words)) for words in prose_of(name)}
            for place, mine, other in _leaves(english, german, ""):
                if mine != other:
                    self.assertEqual(said.get(mine), other, f"{name}{place}")

    def test_the_same_judgement(self) -> None:
        """What is found weighs the same, and leads to the same choices, whatever is spoken."""
        finds = [("A1L", "rock_12_6"), ("A1L", "spin"), ("A2R", "spin")]
        hands = {key: row for key, row in table("evidence/hands.toml").items() if isinstance(row, dict)}
        seen = [Observation(key, hub, {"answer": hands[key]["outcomes"][-1]}) for hub, key in finds if key in hands]

        def judged() -> list[tuple[str, str, float, str]]:
            found = assess(vehicle_from_json(VAN), [], seen)
            return [(v.hub.id, v.choice.choice, round(v.probability, 12), v.hub.design.label) for v in found.hubs]

        english, german = judged(), _in_german(judged)
        self.assertGreater(len(seen), 1)
        self.assertEqual([row[:3] for row in english], [row[:3] for row in german])
        self.assertNotEqual([row[3] for row in english], [row[3] for row in german])


def _in_german(make):
    with speaking("de"):
        return make()


def _leaves(english, german, place: str):
    """Give the values of two tables side by side, with where they stand."""
    if isinstance(english, dict):
        assert list(english) == list(german), place
        for key in english:
            yield from _leaves(english[key], german[key], f"{place}.{key}")
    elif isinstance(english, list):
        assert len(english) == len(german), place
        for n, (mine, other) in enumerate(zip(english, german, strict=True)):
            yield from _leaves(mine, other, f"{place}[{n}]")
    else:
        yield place, english, german


if __name__ == "__main__":
    unittest.main()
