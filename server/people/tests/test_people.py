"""People: the first one, others by a link, roles, leaving, passwords and devices."""

import json
from datetime import timedelta
from io import StringIO

from django.core.management import call_command
from django.test import Client, TestCase, override_settings
from django.utils import timezone
from workshop.tests.people import PASSWORD, WorkshopTestCase

from people.invitations import set_up_code
from people.models import Invitation, User, Workshop

NEW = {"username": "wren", "name": "Wren Tallow", "password": "a long enough word"}


class Posts:
    """Sends JSON."""

    def post(self, path: str, data: dict, *, client: Client | None = None, method: str = "post"):
        """Send to the API, as nobody unless a client is given."""
        call = getattr(client or Client(), method)
        return call(f"/api/{path}", json.dumps(data), content_type="application/json")

    def refused(self, answer, code: str) -> None:
        """Hold that it was refused for this."""
        self.assertEqual(answer.json().get("code"), code, answer.content)  # type: ignore[attr-defined]


class FirstRun(Posts, TestCase):
    """An empty database."""

    def test_set_up_with_the_code(self) -> None:
        """The code makes a workshop and its owner, once; a wrong one does not."""
        self.assertTrue(Client().get("/api/session").json()["set_up"])
        body = NEW | {"workshop": "Low Road Garage"}
        self.refused(self.post("set-up", body | {"secret": "guessed"}), "link_gone")
        code, client = set_up_code(), Client()
        weak = self.post("set-up", body | {"secret": code, "password": "short"}, client=client)
        self.assertEqual((weak.status_code, Workshop.objects.count()), (422, 0))
        person = self.post("set-up", body | {"secret": code}, client=client).json()["person"]
        self.assertEqual((person["workshop"], person["role"]), ("Low Road Garage", "owner"))
        self.assertEqual(client.get("/api/yard").status_code, 200)
        self.refused(self.post("set-up", body | {"secret": code, "username": "other"}), "link_gone")
        self.assertFalse(Client().get("/api/session").json()["set_up"])

    def test_a_new_code_ends_the_old(self) -> None:
        """The one that was printed last holds."""
        old, _ = set_up_code(), set_up_code()
        self.refused(self.post("invitations/look", {"secret": old}), "link_gone")

    def test_by_command(self) -> None:
        """With a code, or at once; never over somebody."""
        out = StringIO()
        call_command("set_up", stdout=out)
        look = self.post("invitations/look", {"secret": out.getvalue().strip()})
        self.assertEqual(look.json()["kind"], "set_up")
        words = {"workshop": "Low Road Garage", "username": "wren", "name": "Wren Tallow", "password": NEW["password"]}
        call_command("set_up", **words, stdout=out)
        user = User.objects.get()
        self.assertTrue(user.check_password(NEW["password"]) and user.role == "owner")
        with self.assertRaisesMessage(Exception, "set up already"):
            call_command("set_up", stdout=out)
        call_command("set_up", if_needed=True, stdout=(quiet := StringIO()))
        self.assertEqual(quiet.getvalue(), "")

    def test_the_demos_person_only_while_it_runs(self) -> None:
        """Restarted without the demo, its published password opens nothing, an old session neither."""
        shop = Workshop.objects.create(name="Demo")
        User.objects.create_user("mechanic", password=PASSWORD, workshop=shop, role="owner", demo=True)
        words, client = {"username": "mechanic", "password": PASSWORD}, Client()
        with override_settings(DEMO=True):
            self.assertEqual(self.post("session", words, client=client).status_code, 200)
            self.assertEqual(client.get("/api/yard").status_code, 200)
        self.refused(self.post("session", words), "wrong_sign_in")
        self.assertEqual(client.get("/api/yard").status_code, 401)
        self.assertIsNone(client.get("/api/session").json()["person"])
        self.assertTrue(Client().get("/api/session").json()["set_up"])


class Joining(Posts, WorkshopTestCase):
    """Others come in by a link."""

    def link(self, path: str = "people/invitations", role: str = "apprentice") -> str:
        """Return the secret of a link."""
        return self.send(path, {"role": role}).json()["address"].partition("#")[2]

    def test_by_a_link_once(self) -> None:
        """As what one was invited; the link is of no use twice, and not kept in the clear."""
        secret = self.link()
        seen = self.post("invitations/look", {"secret": secret}).json()
        self.assertEqual((seen["workshop"], seen["role"]), ("ours", "Apprentice"))
        client = Client()
        person = self.post("join", NEW | {"secret": secret}, client=client).json()["person"]
        self.assertEqual((person["name"], person["role"]), (NEW["name"], "apprentice"))
        self.assertEqual(set(person["may_not"]), {"decide", "rule"})
        self.refused(self.post("join", NEW | {"secret": secret, "username": "two"}), "link_gone")
        self.assertFalse(Invitation.objects.filter(hash__contains=secret).exists())

    def test_what_cannot_be(self) -> None:
        """A taken name, a weak word, a name of spaces, a link that is too old."""
        secret = self.link()
        self.refused(self.post("join", NEW | {"secret": secret, "username": "ours"}), "name_taken")
        self.refused(self.post("join", NEW | {"secret": secret, "password": "12345678"}), "weak_password")
        self.assertEqual(self.post("join", NEW | {"secret": secret, "username": "a b"}).status_code, 422)
        self.refused(self.post("join", NEW | {"secret": secret, "name": "  "}), "name_missing")
        Invitation.objects.update(ends_at=timezone.now() - timedelta(minutes=1))
        self.refused(self.post("join", NEW | {"secret": secret}), "link_gone")

    def test_roles_and_leaving(self) -> None:
        """Somebody gets another role, leaves with all devices at once, and comes back; somebody stays owner."""
        client = Client()
        person = self.post("join", NEW | {"secret": self.link()}, client=client).json()["person"]
        path = f"people/{person['id']}"
        self.send(path, {"role": "mechanic", "active": True}, method="put")
        self.assertEqual(set(client.get("/api/session").json()["person"]["may_not"]), {"rule"})
        self.send(path, {"role": "mechanic", "active": False}, method="put")
        self.assertEqual(client.get("/api/yard").status_code, 401)
        words = {"username": NEW["username"], "password": NEW["password"]}
        self.refused(self.post("session", words), "wrong_sign_in")
        self.send(path, {"role": "mechanic", "active": True}, method="put")
        self.assertEqual(self.post("session", words).status_code, 200)
        for change in ({"role": "mechanic", "active": True}, {"role": "owner", "active": False}):
            self.refused(self.send(f"people/{self.user.pk}", change, method="put"), "last_owner")
        theirs = self.send(
            f"people/{person['id']}", {"role": "owner", "active": True}, method="put", client=self.neighbour
        )
        self.assertEqual(theirs.status_code, 404)
        listed = self.client.get("/api/people").json()["people"]
        self.assertEqual([(row["name"], row["me"]) for row in listed], [("ours", True), (NEW["name"], False)])
        self.assertEqual(len(self.neighbour.get("/api/people").json()["people"]), 1)

    def test_links_of_somebody_who_left(self) -> None:
        """Open nothing, nor do those of one who is no owner any more."""
        second = User.objects.create_user("second", password=PASSWORD, workshop=self.user.workshop, role="owner")
        other = Client()
        other.force_login(second)
        for change in ({"role": "mechanic", "active": True}, {"role": "owner", "active": False}):
            User.objects.filter(pk=second.pk).update(role="owner", is_active=True)
            link = self.send("people/invitations", {"role": "reader"}, client=other).json()["address"]
            self.send(f"people/{second.pk}", change, method="put")
            self.refused(self.post("invitations/look", {"secret": link.partition("#")[2]}), "link_gone")

    def test_a_new_password_by_a_link(self) -> None:
        """Of the owner's making; other devices are signed out, the old word ends."""
        device = Client()
        self.post("session", {"username": "ours", "password": PASSWORD}, client=device)
        secret = self.link(f"people/{self.user.pk}/reset")
        self.assertEqual(self.post("invitations/look", {"secret": secret}).json()["name"], "ours")
        self.refused(self.post("join", NEW | {"secret": secret}), "link_gone")
        new = Client()
        self.assertEqual(
            self.post("reset", {"secret": secret, "password": NEW["password"]}, client=new).status_code, 200
        )
        self.assertEqual((new.get("/api/yard").status_code, device.get("/api/yard").status_code), (200, 401))
        self.refused(self.post("session", {"username": "ours", "password": PASSWORD}), "wrong_sign_in")


class Devices(Posts, WorkshopTestCase):
    """Where one is signed in."""

    def test_seen_and_signed_out(self) -> None:
        """Each browser is listed; one is signed out from another; signing out forgets it; neighbours' are unknown."""
        phone, tablet = Client(headers={"user-agent": "Phone"}), Client(headers={"user-agent": "Tablet"})
        for client in (phone, tablet):
            self.post("session", {"username": "ours", "password": PASSWORD}, client=client)
        rows = {row["agent"]: row for row in phone.get("/api/devices").json()}
        self.assertEqual((rows["Phone"]["here"], rows["Tablet"]["here"]), (True, False))
        there = f"devices/{rows['Tablet']['id']}"
        self.assertEqual(self.post(there, {}, client=self.neighbour, method="delete").status_code, 404)
        self.assertEqual(self.post(there, {}, client=phone, method="delete").status_code, 204)
        self.assertEqual((tablet.get("/api/yard").status_code, phone.get("/api/yard").status_code), (401, 200))
        self.post("session", {}, client=phone, method="delete")
        self.assertEqual(self.user.devices.count(), 0)

    def test_the_old_password_is_not_guessed(self) -> None:
        """After six wrong ones even the right one waits, as at the door."""
        here = Client()
        self.post("session", {"username": "ours", "password": PASSWORD}, client=here)
        said = [self.post("password", {"old": "wrong", "new": NEW["password"]}, client=here) for _ in range(7)]
        self.assertEqual(said[-1].status_code, 429)
        self.refused(self.post("password", {"old": PASSWORD, "new": NEW["password"]}, client=here), "too_many_tries")

    def test_ones_own_password(self) -> None:
        """The old word is asked; here one stays signed in, elsewhere not."""
        here, there = Client(), Client()
        for client in (here, there):
            self.post("session", {"username": "ours", "password": PASSWORD}, client=client)
        self.refused(self.post("password", {"old": "wrong", "new": NEW["password"]}, client=here), "wrong_password")
        self.refused(self.post("password", {"old": PASSWORD, "new": "short"}, client=here), "weak_password")
        self.assertEqual(self.post("password", {"old": PASSWORD, "new": NEW["password"]}, client=here).status_code, 200)
        self.assertEqual((here.get("/api/yard").status_code, there.get("/api/yard").status_code), (200, 401))
        self.assertEqual([row["here"] for row in here.get("/api/devices").json()], [True])
