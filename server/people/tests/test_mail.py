"""Links by mail: to whom they belong, and nothing learnt by anybody else."""

import re
import smtplib
from unittest import mock

from django.core import mail as letters
from django.test import Client, TransactionTestCase, override_settings
from workshop.tests.people import PASSWORD

from people import mail
from people.models import Invitation, Role, User, Workshop

MAILS = override_settings(MAIL="mail.example", ADDRESS="https://hematite.example")


class Mail(TransactionTestCase):
    """Somebody with an address, somebody without."""

    def setUp(self) -> None:
        """Make them."""
        ours = Workshop.objects.create(name="Low Road\nGarage")
        self.user = User.objects.create_user("ours", "ada@example.org", PASSWORD, workshop=ours, role=Role.OWNER)
        User.objects.create_user("without", "", PASSWORD, workshop=ours)

    def send(self, path: str, body: dict, client: Client | None = None):
        """Send, and wait until what is sent beside it went."""
        answer = (client or Client()).post(f"/api/{path}", body, content_type="application/json")
        for _ in range(2):  # one letter may order another
            mail.POST.submit(int).result(10)
        return answer

    @MAILS
    def test_forgotten(self) -> None:
        """The same answer for everybody; one letter, to the one who has an address; its link opens once."""
        for name in ("ours", "without", "nobody", "ours"):
            self.assertEqual(self.send("forgotten", {"username": name}).status_code, 204)
        self.assertEqual([letter.to for letter in letters.outbox], [["ada@example.org"]])
        link = re.search(r"https://hematite\.example/reset#(\S+)", letters.outbox[0].body)
        assert link is not None
        body = {"secret": link[1], "password": "another long word"}
        self.assertEqual([self.send("reset", body).status_code for _ in range(2)], [200, 404])
        self.assertNotIn("\n", letters.outbox[0].subject)

    @MAILS
    def test_invited_by_mail(self) -> None:
        """The link is shown and sent."""
        client = Client()
        client.force_login(self.user)
        said = self.send("people/invitations", {"role": "mechanic", "mail": "new@example.org"}, client).json()
        self.assertEqual(said["mailed"], "new@example.org")
        self.assertIn(said["address"].partition("#")[2], letters.outbox[0].body)
        wrong = self.send("people/invitations", {"role": "mechanic", "mail": "new@x\nBcc: y@z"}, client)
        self.assertEqual(wrong.status_code, 422)

    @MAILS
    def test_a_mail_server_that_is_away(self) -> None:
        """Nobody waits for it; it is in the log."""
        away = mock.patch.object(mail, "send_mail", side_effect=smtplib.SMTPServerDisconnected("away"))
        with away, self.assertLogs("people.mail", "ERROR"):
            self.assertEqual(self.send("forgotten", {"username": "ours"}).status_code, 204)

    def test_without_a_mail_server(self) -> None:
        """Said so, and no link is made that nobody gets."""
        answer = self.send("forgotten", {"username": "ours"})
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "no_mail"))
        self.assertEqual(Invitation.objects.count(), 0)
        self.assertFalse(Client().get("/api/session").json()["mails"])
