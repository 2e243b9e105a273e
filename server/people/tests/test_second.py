"""The second factor: held against the numbers that RFC 6238 prints, each once, and lost with its phone."""

import base64
from datetime import UTC, datetime
from unittest import mock

import pyotp
from audit.models import Trace
from django.core.management import call_command
from django.test import Client, SimpleTestCase, override_settings
from workshop.tests.people import PASSWORD, WorkshopTestCase

from people import second
from people.models import SecondFactor, User

# RFC 6238, appendix B, SHA-1, the last six of its eight digits.
RFC = {59: "287082", 1111111109: "081804", 1111111111: "050471", 1234567890: "005924", 2000000000: "279037"}
SEED = base64.b32encode(b"12345678901234567890").decode()


class Numbers(SimpleTestCase):
    """Of the seed of RFC 6238."""

    def test_numbers_of_the_standard(self) -> None:
        """Each opens in its half minute and one beside it; not two away, not once said."""
        for at, number in RFC.items():
            for late, opens in ((0, True), (30, True), (90, False)):
                moment = datetime.fromtimestamp(at + late, UTC)
                with self.subTest(at, late=late), mock.patch.object(second.timezone, "now", return_value=moment):
                    self.assertEqual(second._step_of(SEED, number, after=0), at // 30 if opens else None)
                    self.assertIsNone(second._step_of(SEED, number, after=at // 30))


class SecondFactors(WorkshopTestCase):
    """Turned on by its owner, asked for at the sign-in."""

    def setUp(self) -> None:
        """Turn it on."""
        super().setUp()
        self.secret = self.send("second/begin").json()["secret"]
        answer = self.send("second", {"number": pyotp.TOTP(self.secret).now()})
        self.words = answer.json()["words"]
        SecondFactor.objects.update(last_step=0)  # the number of this half minute may be said again, in tests

    def enter(self, number: str = "", password: str = PASSWORD):
        """Try to sign in."""
        body = {"username": "ours", "password": password, "number": number}
        return self.send("session", body, client=Client())

    def number(self) -> str:
        """Return what the authenticator shows."""
        return pyotp.TOTP(self.secret).now()

    def test_asked_for_once_the_password_was_right(self) -> None:
        """A wrong password does not tell that there is one; the right one asks; a number opens, once."""
        self.assertEqual(self.enter(password="guess").json()["code"], "wrong_sign_in")
        self.assertEqual(self.enter().json()["code"], "second_number")
        number = self.number()
        self.assertEqual(self.enter(number).status_code, 200)
        again = self.enter(number)
        self.assertEqual((again.status_code, again.json()["code"]), (401, "second_number"))

    def test_a_word_opens_once(self) -> None:
        """However it is typed."""
        self.assertEqual(len(set(self.words)), second.WORDS)
        typed = f" {self.words[0][:4].upper()} {self.words[0][4:]} "
        self.assertEqual([self.enter(typed).status_code for _ in range(2)], [200, 401])
        self.assertEqual(self.client.get("/api/second").json(), {"on": True, "words_left": second.WORDS - 1})

    def test_guessing_is_stopped(self) -> None:
        """After six wrong numbers in a row the right one does not open either, for six minutes."""
        for _ in range(second.MOST_WRONG):
            self.assertEqual(self.enter("000000").status_code, 401)
        self.assertEqual(self.enter(self.number()).status_code, 429)
        SecondFactor.objects.update(shut_until=datetime(2026, 1, 1, tzinfo=UTC))
        self.assertEqual(self.enter(self.number()).status_code, 200)

    def test_nothing_in_the_table_opens_it(self) -> None:
        """Neither the secret nor a word stands there."""
        row = str(SecondFactor.objects.values().get())
        for kept in (self.secret, *self.words):
            self.assertNotIn(kept, row)

    def test_a_link_alone_does_not_let_in(self) -> None:
        """A new password by a link still asks for the number."""
        link = self.send(f"people/{self.user.pk}/reset").json()["address"]
        client = Client()
        answer = self.send("reset", {"secret": link.partition("#")[2], "password": "another long word"}, client=client)
        self.assertIsNone(answer.json()["person"])
        self.assertEqual(self.enter(self.number(), "another long word").status_code, 200)

    def test_taken_off(self) -> None:
        """By oneself with the password; by an owner; from the command line. It is written down."""
        self.assertEqual(self.send("second/off", {"password": "guess"}).status_code, 422)
        self.assertEqual(self.send("second/off", {"password": PASSWORD}).json()["on"], False)
        self.assertEqual(self.enter().status_code, 200)
        self.send("second/begin")
        people = self.send(f"people/{self.user.pk}/second/off").json()["people"]
        self.assertFalse(people[0]["second"])
        second.confirm(User.objects.get(pk=self.user.pk), SEED, pyotp.TOTP(SEED).now())
        call_command("second_off", "ours", stdout=mock.Mock())
        self.assertFalse(SecondFactor.objects.exists())
        whats = Trace.objects.filter(what=Trace.What.SECOND_FACTOR).values_list("details", flat=True)
        self.assertEqual(list(whats), [["off"], ["on"], ["off"], ["on"]])

    @override_settings(SECRET_KEY="another key than before, of 32 signs or more")
    def test_the_server_has_another_key(self) -> None:
        """Said in words; a word for when it is lost still opens."""
        self.assertEqual(self.enter(self.number()).json()["code"], "second_lost")
        self.assertEqual(self.enter(self.words[1]).status_code, 200)

    def test_a_number_that_is_not_of_the_code(self) -> None:
        """Nothing is turned on."""
        SecondFactor.objects.all().delete()
        self.assertEqual(self.send("second", {"number": "123456"}).status_code, 409)  # not begun
        self.send("second/begin")
        self.assertEqual(self.send("second", {"number": "12 45"}).status_code, 422)
        self.assertFalse(SecondFactor.objects.exists())
