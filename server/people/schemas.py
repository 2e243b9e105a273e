"""Shapes of people and ways in, in the API."""

from datetime import datetime
from typing import Literal

from ninja import Field
from workshop.shape import Schema

RoleKey = Literal["reader", "apprentice", "mechanic", "owner"]


class SignInIn(Schema):
    """What is typed to sign in."""

    username: str = Field(max_length=150)
    password: str = Field(max_length=200)
    number: str = Field("", max_length=40)  # of an authenticator, or one of the words for when it is lost


class PreferencesIn(Schema):
    """Units by quantity, the light, and the language; `language` '': as the workshop speaks."""

    units: dict[str, str] = {}
    light: Literal["day", "under"] | None = None
    language: str | None = Field(None, max_length=8)


class LanguageIn(Schema):
    """The language that the workshop speaks; '': as each device asks."""

    language: str = Field(max_length=8)


class PersonOut(Schema):
    """The signed-in person; `may_not`: what their role does not allow, by key of `people.permissions`, in words."""

    id: int
    name: str
    workshop: str
    role: str
    may_not: dict[str, str]
    units: dict[str, str]
    light: str | None
    language: str  # that they chose; '': as the workshop speaks
    workshop_language: str
    mail: str


class DemoOut(Schema):
    """The demo sign-in, while the demo flag is on."""

    username: str
    password: str


class SessionOut(Schema):
    """Who is signed in, or nobody; the demo sign-in while it is offered; `set_up`: nobody can sign in yet.

    `language`: that this was answered in; `languages`: that are offered, the server's first in front.
    """

    person: PersonOut | None
    language: str
    languages: list[str]
    demo: DemoOut | None
    set_up: bool
    mails: bool


class _NewIn(Schema):
    """Who is new: the name to sign in with, the name that is shown, and a password."""

    secret: str = Field(max_length=100)
    username: str = Field(min_length=1, max_length=60, pattern=r"^[\w.@+-]+$")
    name: str = Field(min_length=1, max_length=70)
    password: str = Field(max_length=200)


class JoinIn(_NewIn):
    """Who joins."""


class SetUpIn(_NewIn):
    """The first workshop and its owner."""

    workshop: str = Field(min_length=1, max_length=120)
    language: str = Field("", max_length=8)


class SecretIn(Schema):
    """The secret of a link."""

    secret: str = Field(max_length=100)


class ResetIn(SecretIn):
    """A new password by a link."""

    password: str = Field(max_length=200)


class PasswordIn(Schema):
    """One's own password, old and new."""

    old: str = Field(max_length=200)
    new: str = Field(max_length=200)


class InvitationOut(Schema):
    """What a link opens: of which kind, into which workshop, as what; `name`: whose password it is."""

    kind: str
    workshop: str
    role: str
    name: str


class InviteIn(Schema):
    """As what somebody is invited."""

    role: RoleKey
    mail: str = Field("", max_length=254, pattern=r"^$|^[^@\s]+@[^@\s]+$")


class MailIn(Schema):
    """One's own address; '' for none."""

    mail: str = Field(max_length=254, pattern=r"^$|^[^@\s]+@[^@\s]+$")


class ForgottenIn(Schema):
    """Who forgot their password."""

    username: str = Field(max_length=150)


class SecondOut(Schema):
    """Whether a second number is asked for, and how many words are left."""

    on: bool
    words_left: int


class BegunOut(Schema):
    """A new secret for an authenticator, as text and as QR code. It counts once a number of it was said."""

    secret: str
    qr: str


class NumberIn(Schema):
    """A number that an authenticator shows."""

    number: str = Field(max_length=40)


class WordsOut(Schema):
    """Words for when the authenticator is lost, each once; shown this once."""

    words: list[str]


class OwnPasswordIn(Schema):
    """One's own password, for what somebody at an unlocked phone should not do."""

    password: str = Field(max_length=200)


class LinkOut(Schema):
    """A link, shown once: its address, the same as a QR code (an SVG in a data address), and when it ends.

    `mailed`: where it was sent as well, '' for nowhere.
    """

    mailed: str
    address: str
    qr: str
    ends_at: datetime


class StaffOut(Schema):
    """One of the workshop's people."""

    id: int
    name: str
    username: str
    role: str
    active: bool
    me: bool
    second: bool
    seen_at: datetime | None


class RoleOut(Schema):
    """A role and what it may do, in words."""

    key: str
    label: str
    words: str


class PeopleOut(Schema):
    """The workshop's people and the roles there are."""

    people: list[StaffOut]
    roles: list[RoleOut]


class StaffIn(Schema):
    """A person's role, and whether they can sign in."""

    role: RoleKey
    active: bool


class DeviceOut(Schema):
    """A device on which one is signed in; `agent`: as the browser names itself."""

    id: int
    agent: str
    since: datetime
    seen_at: datetime
    here: bool
