"""Lines written by hand, and books that were kept elsewhere."""

import uuid
from datetime import date, timedelta
from unittest import mock

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import SimpleTestCase
from django.utils import timezone
from upkeep.models import Reading
from workshop.refusals import Refusal
from workshop.tests.people import WorkshopTestCase

from logbook import written
from logbook.models import Entry
from logbook.tables import read_table


def lines(text: str, **how: str) -> list[dict]:
    """Return what the lines of a table say."""
    return [line for _, line in read_table(text.encode(), **how).lines]


class Tables(SimpleTestCase):
    """What stands in a book that somebody else kept."""

    def test_words_units_and_signs_of_many_books(self) -> None:
        """Semicolons and commas, inches and miles, thousands and a mark of byte order: the same line."""
        book = "\ufeffDate;Wheel;What;End play (in);Odometer (mi);Part no.\n14.03.2025;A1L;Replaced;0,002;54.321;32008"
        (line,) = lines(book)
        self.assertEqual((line["on"], line["hub"], line["kind"]), (date(2025, 3, 14), "A1L", "fitted"))
        self.assertAlmostEqual(line["play_mm"], 0.0508)  # 25.4 mm to the inch, NIST SP 811
        self.assertAlmostEqual(line["km"], 54_321 * 1.609344)  # metres to the mile, NIST SP 811
        self.assertEqual(line["number"], "32008")
        (line,) = lines('when,torque [lbf·ft],note\n2025-03-14T10:00,"1,085.5",axle nut')
        self.assertAlmostEqual(line["torque_nm"], 1085.5 * 1.3558179483314004)
        (line,) = lines("day\tplay_mm\n14 Mar 2025\t0.05")
        self.assertEqual((line["on"], line["play_mm"], line["kind"]), (date(2025, 3, 14), 0.05, "measured"))

    def test_a_tenth_is_never_a_thousand(self) -> None:
        """A comma of three digits parts thousands on an odometer, and nowhere else."""
        (line,) = lines("date;play;odometer\n2025-01-02;0,125;12,125")
        self.assertEqual((line["play_mm"], line["km"]), (0.125, 12_125.0))

    def test_which_is_the_month(self) -> None:
        """Said by a dot or by any day over twelve; else it is asked, never taken."""
        self.assertEqual(lines("date,km\n03/04/2025,1000\n25/04/2025,1100")[0]["on"], date(2025, 4, 3))
        self.assertEqual(lines("date,km\n03/04/2025,1000\n04/25/2025,1100")[0]["on"], date(2025, 3, 4))
        self.assertEqual(lines("date,km\n03.04.2025,1000")[0]["on"], date(2025, 4, 3))
        open_ = read_table(b"date,km\n03/04/2025,1000\nsoon,1100")
        self.assertTrue(open_.open_dates)
        self.assertEqual(lines("date,km\n03/04/2025,1000", dates="month_first")[0]["on"], date(2025, 3, 4))

    def test_lines_that_cannot_be_read_are_named(self) -> None:
        """By their number; the others stand."""
        found = read_table(b"date,play,km\n2025-01-02,0.05,\nsoon,0.05,\n2025-01-03,loose,\n,0.1,\n2025-01-04,1,2,3,4")
        self.assertEqual(len(found.lines), 1)
        self.assertEqual([words.split(":")[0] for words in found.amiss], ["Line 3", "Line 4", "Line 5", "Line 6"])

    def test_no_table(self) -> None:
        """Refused in words: empty, a picture, no day, an unknown unit, two columns of one name."""
        for data, words in (
            (b"", "no line below a heading"),
            (b"date,km", "no line below a heading"),
            (b"\x89PNG\0\0\0\n1,2", "no table of text"),
            (b"what,km\nset,1", "No column of it is a date"),
            (b"date,play (furlong)\n2025-01-02,1", "no unit that is known here for play"),
            (b"date,km,odometer\n2025-01-02,1,2", "would be the same"),
            (b"date\n" + b"2025-01-02\n" * 6000, "more than 5000 lines"),
            (b"x" * (5 * 1024 * 1024), "larger than 4 MB"),
        ):
            with self.assertRaisesMessage(Refusal, words):
                read_table(data)


class Written(WorkshopTestCase):
    """Into a vehicle's logbook."""

    def setUp(self) -> None:
        """Say where."""
        super().setUp()
        self.path = f"vehicles/{self.vehicle.id}/logbook"
        self.today = timezone.localdate()

    def write(self, **more: object):
        """Write a line."""
        body = {"id": str(uuid.uuid4()), "on": str(self.today), "kind": "fitted", "hub": "A1L"} | more
        return self.send(self.path, body)

    def rows(self, **asked: str) -> list[dict]:
        """Return the lines written by hand."""
        return self.client.get(f"/api/{self.path}", {"kind": "written"} | asked).json()["rows"]

    def table(self, text: str, *, look: bool = False, client=None, **more: str):
        """Bring a table along."""
        form = {"table": SimpleUploadedFile("old book.csv", text.encode()), **more}
        return (client or self.client).post(f"/api/{self.path}/table{'/look' if look else ''}", form)

    def test_a_part_with_its_numbers(self) -> None:
        """It stands with batch, grease, torque and distance; the odometer is read with it; sent twice it is once."""
        part = {"part": "Hub unit", "number": "HU-77", "batch": "L3", "torque_nm": 290.0, "km": 52_100.0}
        number = str(uuid.uuid4())
        for _ in range(2):
            self.assertEqual(self.write(id=number, grease="lithium complex", **part).status_code, 201)
        (row,) = self.rows()
        said = "part fitted: Hub unit HU-77 (batch L3), lithium complex, 290.0 N·m, at 52,100 km"
        self.assertEqual((row["words"], row["hub"], row["written"]), (said, "A1L", number))
        self.assertEqual(Reading.objects.get().km, 52_100)

    def test_corrected_by_another_line(self) -> None:
        """The old one is struck out, a third cannot correct it; taken back, nothing stands."""
        old = str(uuid.uuid4())
        self.write(id=old, part="Seal")
        self.write(part="Seal, double lip", supersedes=old)
        self.assertEqual([row["struck"] for row in self.rows()].count(True), 1)
        self.assertEqual(self.write(part="x", supersedes=old).json()["code"], "already_superseded")
        new = next(row["written"] for row in self.rows() if not row["struck"])
        self.write(supersedes=new, withdrawn=True)
        self.assertTrue(all(row["struck"] for row in self.rows()))

    def test_what_cannot_be_written(self) -> None:
        """Nothing said, a day to come, another hub, a play of a metre, an odometer that goes back, not ones own."""
        self.send(
            f"vehicles/{self.vehicle.id}/odometer", {"id": str(uuid.uuid4()), "on": str(self.today), "km": 90_000}
        )
        before = str(self.today - timedelta(days=30))
        for body, words in (
            ({}, "Say what was done"),
            ({"words": "x", "on": str(self.today + timedelta(days=9))}, "still to come"),
            ({"words": "x", "hub": "A9L"}, "hub of this vehicle"),
            ({"kind": "sold", "words": "x"}, "kind of entry"),
            ({"play_mm": 1000.0}, "play_mm"),
            ({"km": 95_000.0, "on": before}, "does not go with that"),
        ):
            answer = self.write(**body)
            self.assertEqual(answer.status_code, 422, body)
            self.assertIn(words, answer.json()["message"])
        self.assertEqual((Entry.objects.count(), Reading.objects.count()), (0, 1))
        self.assertEqual(self.send(self.path, {}, client=self.neighbour).status_code, 422)
        body = {"id": str(uuid.uuid4()), "on": str(self.today), "kind": "note", "words": "x"}
        self.assertEqual(self.send(self.path, body, client=self.neighbour).status_code, 404)

    def test_a_book_looked_at_brought_and_brought_again(self) -> None:
        """Looking changes nothing; a line that cannot stand is named; the second time adds nothing."""
        book = (
            "Date,Wheel,What,Play (mm),Odometer,Note,Colour\n2024-03-01,A1L,measured,0.02,40000,,red\n"
            "2024-09-01,A1L,measured,0.03,46000,,\n2025-03-01,A1L,measured,0.05,52000,,\n"
            "2025-03-01,A9L,measured,0.05,,,\n2025-04-01,,odometer,,53000,,\n2025-05-01,,odometer,,41000,,\n"
        )
        seen = self.table(book, look=True).json()
        self.assertEqual(Entry.objects.count(), 0)
        self.assertEqual([c["heading"] for c in seen["columns"] if not c["taken_for"]], ["Colour"])
        taken = self.table(book)
        self.assertEqual((taken.status_code, taken.json()), (201, seen))
        self.assertEqual({row["label"]: row["count"] for row in seen["new"]}, {"Play measured": 3, "Odometer": 1})
        self.assertEqual([words.split(":")[0] for words in seen["amiss"]], ["Line 5", "Line 7"])
        self.assertEqual(Reading.objects.count(), 4)
        again = self.table(book).json()
        self.assertEqual((again["new"], again["here"]), ([], 4))
        self.assertIn("(from old book.csv)", self.rows()[0]["words"])
        series = self.client.get(f"/api/vehicles/{self.vehicle.id}/growth").json()["series"]
        (play,) = [row for row in series if (row["hub"], row["key"]) == ("A1L", "play")]
        self.assertEqual([point["value"] for point in play["points"]], [0.02, 0.03, 0.05])
        self.write(part="Hub unit", on="2025-06-01")
        series = self.client.get(f"/api/vehicles/{self.vehicle.id}/growth").json()["series"]
        self.assertEqual(len(series[0]["breaks"]), 1)

    def test_a_long_book_is_held_against_what_is_there_once(self) -> None:
        """Thousands of lines would each read thousands of readings again: all of them stand, and go with each other."""
        rows = [f"2024-{1 + n // 28}-{1 + n % 28};looked;{1000 + 10 * n};seen" for n in range(60)]
        rows += ["2024-01-20;looked;5;slipped back"]
        table = read_table("\n".join(["Date;Kind;Odometer (km);Note", *rows]).encode())
        with mock.patch.object(written, "usage_of", wraps=written.usage_of) as read:
            found = written.bring(self.user, self.vehicle.id, table, "book")
        self.assertEqual(read.call_count, 1)
        self.assertEqual((found.new["looked"], len(found.amiss)), (60, 1))
        self.assertIn("does not go with that", found.amiss[0])
        self.assertEqual(Reading.objects.filter(vehicle=self.vehicle).count(), 60)

    def test_open_dates_are_asked_about(self) -> None:
        """Nothing is written until somebody says which is the month; nor by a neighbour at all."""
        book = "date,note\n03/04/2025,looked at\n"
        self.assertTrue(self.table(book, look=True).json()["open_dates"])
        self.assertEqual(self.table(book).json()["code"], "open_dates")
        self.assertEqual(self.table(book, dates="day_first").status_code, 201)
        self.assertEqual(Entry.objects.get().on, date(2025, 4, 3))
        self.assertEqual(self.table(book, dates="day_first", client=self.neighbour).status_code, 404)

    def test_the_own_logbook_comes_back(self) -> None:
        """What was written out as CSV is read again."""
        self.write(part="Seal", km=52_000.0)
        text = self.client.get(f"/api/{self.path}.csv?kind=written").content.decode()
        (line,) = lines(text)
        self.assertEqual((line["hub"], line["km"], line["on"]), ("A1L", 52_000.0, self.today))
