"""Who is spoken to in which language, and that what is said is said in it."""

import json
import uuid
from io import StringIO

from django.conf import settings
from django.core.management import call_command
from django.test import Client, override_settings
from hematite.language import say, speaking
from people.invitations import set_up_code
from people.models import User, Workshop
from upkeep.models import Recheck
from upkeep.words import label_of
from verdicts.services import accept

from workshop import languages
from workshop.tests.people import AGAIN, PASSWORD, WorkshopTestCase, wav


class Languages(WorkshopTestCase):
    """A workshop, its people, and whoever is not signed in."""

    def test_who_is_not_signed_in(self) -> None:
        """As the browser asks, where it is offered; else the server's first."""
        nobody = Client()
        for asked, spoken in (("de-AT,de;q=0.9,en;q=0.8", "de"), ("fr-FR", "en"), ("fr,de", "de"), ("", "en")):
            answer = nobody.get("/api/session", headers={"accept-language": asked})
            self.assertEqual((answer.json()["language"], answer.json()["languages"]), (spoken, ["en", "de"]), asked)
            self.assertIn("Accept-Language", answer["Vary"])
        refused = nobody.post(
            "/api/session",
            {"username": "ours", "password": "wrong"},
            content_type="application/json",
            headers={"accept-language": "de"},
        )
        self.assertIn("gehören nicht zusammen", refused.json()["message"])

    def test_one_s_own_before_the_workshop_s_before_the_server_s(self) -> None:
        """Each is chosen by who may, kept, and answered in at once."""
        self.assertEqual(self.client.get("/api/session", headers={"accept-language": "de"}).json()["language"], "de")
        self.client.cookies["django_language"] = "en"  # of the device, before its browser's
        self.assertEqual(self.client.get("/api/session", headers={"accept-language": "de"}).json()["language"], "en")
        said = self.send("workshop/language", {"language": "de"}, method="put").json()
        self.assertEqual((said["language"], said["person"]["workshop_language"]), ("de", "de"))
        self.assertEqual(self.client.get("/api/yard").json()["columns"][2]["label"], "Zu tun")
        self.assertEqual(self.neighbour.get("/api/yard").json()["columns"][2]["label"], "To do")
        self.assertEqual(self.send("preferences", {"language": "en"}, method="put").json()["language"], "en")
        self.assertEqual(self.client.get("/api/yard").json()["columns"][2]["label"], "To do")
        self.send("preferences", {"units": {"torque": "lbfft"}}, method="put")
        self.assertEqual(User.objects.get(pk=self.user.pk).language, "en")  # what is not said again stays
        self.assertEqual(self.send("preferences", {"language": ""}, method="put").json()["language"], "de")
        trace = self.client.get("/api/keeping").json()["traces"][0]
        self.assertEqual((trace["what"], trace["details"]), ("Die Art der Werkstatt geändert", ["language: de"]))

    def test_a_language_that_is_not_offered(self) -> None:
        """Refused in words, and nothing is kept; one that is no longer offered is the server's first."""
        for path in ("preferences", "workshop/language"):
            answer = self.send(path, {"language": "xx"}, method="put")
            self.assertEqual((answer.status_code, answer.json()["code"]), (422, "unknown_language"))
        self.send("preferences", {"language": "de"}, method="put")
        with override_settings(SPOKEN=["en"]):
            self.assertEqual(self.client.get("/api/session").json()["language"], "en")

    def test_languages_without_a_catalogue(self) -> None:
        """The server does not start with a language that it has no words in."""
        self.assertEqual(languages.are_known(), [])
        for spoken in (["en", "xx"], []):
            with override_settings(SPOKEN=spoken):
                self.assertEqual([one.id for one in languages.are_known()], ["hematite.E002"])
        self.assertEqual(settings.SPOKEN[0], "en")

    def test_refusals_and_figures(self) -> None:
        """Of the server, of the core, of Django, and of the process that reads files apart."""
        self.send("preferences", {"language": "de"}, method="put")
        self.assertIn("keine Nabe A9L", self.observe("A9L", "spin", {"answer": "quiet"}).json()["message"])
        empty = self.record("A1L", b"").json()["message"]
        self.assertEqual(empty, "Die Datei ist leer. Noch einmal aufnehmen oder eine andere Datei wählen.")
        unread = self.record("A1L", bytes(range(256)) * 40).json()["message"]
        self.assertIn("keine lesbare Tondatei", unread)
        weak = self.send("password", {"old": PASSWORD, "new": "short"})
        self.assertIn("Passwort", weak.json()["message"])
        sum_ = self.send("sums/torque", {"values": {"torque_nm": 100, "most_nm": 125}}).json()
        self.assertIn("112,5 N·m", json.dumps(sum_, ensure_ascii=False))

    def test_what_is_heard_in_the_background(self) -> None:
        """In the workshop's language, whoever sent it and whatever they speak."""
        Workshop.objects.filter(pk=self.user.workshop_id).update(language="de")
        self.send("preferences", {"language": "en"}, method="put")
        recording = self.record("A1L", wav(seconds=6), speed={"kind": "unknown"}).json()
        state = self.client.get(f"/api/recordings/{recording['id']}").json()
        self.assertNotIn("turns a second", json.dumps(state))

    def test_what_is_kept_is_kept_for_each_language(self) -> None:
        """Parts of open jobs are worked out once and kept; each reader reads them in their own words."""
        accept(self.user, self.case.id, hub="A1L", choice="replace_unit", reason="Told so")
        for language, part in (("en", "Hub unit"), ("de", "Radlagereinheit"), ("en", "Hub unit")):
            self.send("preferences", {"language": language}, method="put")
            self.assertIn(f'"{part}"', json.dumps(self.client.get("/api/fleet").json(), ensure_ascii=False))

    def test_rechecks(self) -> None:
        """The table's are said as the reader speaks; what somebody typed is left as it is."""
        row = Recheck(key="own", label="Replace the bearing")
        table = Recheck(key="after_days", label="Wheel nuts again after half an hour")
        with speaking("de"):
            self.assertEqual(label_of(row), "Replace the bearing")
            self.assertEqual(label_of(table), "Radmuttern noch einmal nach einer halben Stunde")
            self.assertNotEqual(say("Replace the bearing"), "Replace the bearing")
        self.assertIn("label", AGAIN)


class SetUp(WorkshopTestCase):
    """The first workshop is set up in its language."""

    def setUp(self) -> None:
        """Nobody is here yet."""

    def test_by_the_page(self) -> None:
        """It is said beside the name of the workshop."""
        code = set_up_code()
        new = {"secret": code, "username": "erna", "name": "Erna", "password": PASSWORD}
        answer = Client().post(
            "/api/set-up", new | {"workshop": "Halle Drei", "language": "de"}, content_type="application/json"
        )
        self.assertEqual((answer.status_code, answer.json()["person"]["workshop_language"]), (200, "de"))

    def test_by_the_command(self) -> None:
        """It is an option of the command."""
        told = {"workshop": "Halle Vier", "username": f"u{uuid.uuid4().hex[:6]}", "password": PASSWORD}
        call_command("set_up", language="de", stdout=StringIO(), **told)
        self.assertEqual(Workshop.objects.get().language, "de")
