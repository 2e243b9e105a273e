"""The repaired hub heard again: like held against like, every line found in either, the convicting one first."""

from collections.abc import Sequence
from dataclasses import dataclass

from hematite.evidence.sounds import RING_KINDS, WHEEL_KINDS
from hematite.families import CLEAR, FAINT, GEARS
from hematite.language import later, say
from hematite.listening import Heard
from hematite.listening.corners import SAME_SPEED

CHANGED_DB = 3.0  # half or twice the power: what counts as quieter or louder; judgement
SITUATIONS = {
    "stand_spin": later("spun by hand"),
    "stand_driven": later("turned evenly on stands"),
    "road": later("on the road"),
}
SENSORS = {"clip": later("with a pickup on the metal"), "air": later("through the air")}
OUTCOMES = {
    "better": later("Better than before"),
    "same": later("Not proven"),
    "cannot_compare": later("Cannot compare"),
    "cannot_tell": later("Cannot tell"),
    "alone": later("Quiet by itself"),
}


@dataclass(frozen=True)
class LineChange:
    """One fault family before and after, by its strength, None where not found; `convicting`: what was blamed."""

    kind: str
    before: float | None
    after: float | None
    convicting: bool = False

    @property
    def stood(self) -> bool:
        """Return whether a family stood before."""
        return self.before is not None and self.before >= FAINT

    @property
    def stands(self) -> bool:
        """Return whether a family stands afterwards."""
        return self.after is not None and self.after >= FAINT

    @property
    def went(self) -> bool:
        """Return whether a family that stood before has gone."""
        return self.stood and not self.stands

    @property
    def came(self) -> bool:
        """Return whether a family stands that did not before."""
        return self.stands and not self.stood

    @property
    def of_bearing(self) -> bool:
        """Return whether it is a bearing's, not the wheel's own."""
        return self.kind not in WHEEL_KINDS


@dataclass(frozen=True)
class SoundProof:
    """The comparison: level change in dB (None when levels may not be compared), families, and the word on it.

    `outcome` is a key of `OUTCOMES`; only 'better' proves that something is.
    """

    level_change_db: float | None
    lines: tuple[LineChange, ...]
    outcome: str
    words: str

    @property
    def label(self) -> str:
        """Return the outcome in words."""
        return say(OUTCOMES[self.outcome])


def choose_before(earlier: Sequence[Heard], after: Heard | None) -> Heard | None:
    """Return which of the earlier recordings, oldest first, to hold an after-recording against.

    The latest that may be compared with it; where none may, or there is no after-recording yet, the latest fit to use.
    """
    usable = [heard for heard in earlier if heard.usable]
    alike = [heard for heard in usable if after is not None and not _unlike(heard, after)]
    return next(reversed(alike or usable or list(earlier)), None)


def prove_sound(before: Heard | None, after: Heard) -> SoundProof:
    """Hold an after-recording against the before, or judge it by itself where there is none."""
    if not after.usable:
        return SoundProof(None, (), "cannot_tell", say("The new recording is not fit to judge by. Take it again."))
    if after.clipped:
        words = say(
            "The new recording was too loud for the pickup: what is faint may be lost in it. Take it again, gain down."
        )
        return SoundProof(None, (), "cannot_tell", words)
    if before is None or not before.usable:
        return _alone(after)
    unlike = _unlike(before, after)
    if unlike:
        return SoundProof(None, (), "cannot_compare", unlike)
    if not (before.turns_per_s and after.turns_per_s):
        return _without_speed(before, after)
    lines = _line_changes(before, after)
    change = _level_change(before, after)
    return SoundProof(change, lines, *_outcome(change, lines))


def _alone(after: Heard) -> SoundProof:
    lines = tuple(LineChange(kind, None, strength) for kind, strength in _strengths(after).items())
    standing = [line for line in lines if line.stands and line.of_bearing]
    if standing:
        words = say("A fault line of the bearing stands. With no recording from before nobody knows since when.")
        return SoundProof(None, lines, "same", words)
    if not after.turns_per_s:
        words = say("No line stands in it, but how fast the wheel turned was not found: that proves little.")
        return SoundProof(None, lines, "cannot_tell", words)
    words = say("No fault line of the bearing stands. With no recording from before it cannot be called better.")
    return SoundProof(None, lines, "alone", words)


def _unlike(before: Heard, after: Heard) -> str:
    """Return in words what keeps two recordings from being compared, '' when nothing does."""
    old, new = before.situation, after.situation
    if old.place != new.place:
        return say(
            "Cannot compare: {before} before, {after} after. Record the same place.", before=old.place, after=new.place
        )
    if old.situation != new.situation:
        return say(
            "Cannot compare: {before} before, {after} after.",
            before=say(SITUATIONS[old.situation]),
            after=say(SITUATIONS[new.situation]),
        )
    if old.sensor != new.sensor:
        return say(
            "Cannot compare: {before} before, {after} after.",
            before=say(SENSORS[old.sensor]),
            after=say(SENSORS[new.sensor]),
        )
    if before.turns_per_s and after.turns_per_s:
        ratio = after.turns_per_s / before.turns_per_s
        if not 1 / SAME_SPEED <= ratio <= SAME_SPEED:
            speeds = say(
                "{before:.1f} against {after:.1f} turns a second",
                before=before.turns_per_s,
                after=after.turns_per_s,
            )
            return say("Cannot compare: {speeds}. Turn the wheel as fast as before and record again.", speeds=speeds)
    return ""


def _without_speed(before: Heard, after: Heard) -> SoundProof:
    """Where a speed is missing the orders cannot be told; what repeats at all still can."""
    old, new = not before.turns_per_s and _stands(before), _stands(after)
    change = _level_change(before, after)
    if new:
        return SoundProof(change, (), "same", say("Something still repeats as it runs down. Look again at this hub."))
    if old and (change is None or change < CHANGED_DB):
        words = say(
            "What repeated before as it ran down repeats no more. How fast it turned was not found in one of them."
        )
        return SoundProof(change, (), "better", words)
    words = say(
        "How fast the wheel turned was not found in one of the two, and nothing repeats clearly enough to compare."
    )
    return SoundProof(change, (), "cannot_compare", words)


def _stands(heard: Heard) -> bool:
    """Return whether a ring's lines stand in a recording whose speed is not known."""
    return any(kind in RING_KINDS and strength >= CLEAR for kind, strength in _strengths(heard).items())


def _strengths(heard: Heard) -> dict[str, float]:
    """Return how strong each kind is; a final drive's song is the vehicle's, and no job at a hub changes it."""
    strengths: dict[str, float] = {}
    for family in heard.families:
        if family.kind == GEARS:
            continue
        strengths[family.kind] = max(family.odds, strengths.get(family.kind, -9.0))
    return strengths


def _line_changes(before: Heard, after: Heard) -> tuple[LineChange, ...]:
    """Return every kind that was looked for in either, what convicted first, then by strength."""
    old, new = _strengths(before), _strengths(after)
    blamed = [kind for kind in old if kind not in WHEEL_KINDS and old[kind] >= FAINT] or [
        kind for kind in old if old[kind] >= FAINT
    ]
    convicting = max(blamed, key=lambda kind: (kind in RING_KINDS, old[kind]), default="")
    found = [LineChange(kind, old.get(kind), new.get(kind), kind == convicting) for kind in {**old, **new}]
    worth = [line for line in found if line.stood or line.stands]
    return tuple(sorted(worth, key=lambda line: (not line.convicting, -max(line.before or 0, line.after or 0))))


def _level_change(before: Heard, after: Heard) -> float | None:
    key = before.situation.comparable_as
    same = key is not None and key == after.situation.comparable_as and not before.clipped
    return after.level_db - before.level_db if same else None


def _outcome(change: float | None, lines: tuple[LineChange, ...]) -> tuple[str, str]:
    """Return the outcome of two recordings alike: what stands or came, then what is louder, then what went."""
    return _against(change, lines) or _for(change, lines)


def _against(change: float | None, lines: tuple[LineChange, ...]) -> tuple[str, str] | None:
    came = max((line.after or 0.0 for line in lines if line.came), default=0.0)
    if came >= CLEAR:
        return "same", say(
            "A fault line stands now that did not before. The job is not proven: look again at this hub."
        )
    if came:
        return "same", say(
            "A faint line stands now that did not before; one in a hundred or so is chance. Record it again."
        )
    if any(line.stands and line.of_bearing for line in lines):
        return "same", say("Fault lines of the bearing still stand. The job is not proven: look again at this hub.")
    if change is not None and change >= CHANGED_DB:
        return "same", say("It is {change:.0f} dB louder than before. Look again, here or elsewhere.", change=change)
    return None


def _for(change: float | None, lines: tuple[LineChange, ...]) -> tuple[str, str]:
    if any(line.went for line in lines):
        left = say(" What stands still is the wheel's own, not the bearing's.") if any(x.stands for x in lines) else ""
        return "better", say("The fault lines that stood before are gone.{left}", left=left)
    if any(line.stands for line in lines):
        return "same", say("What stood before stands still: the wheel's own lines, not a bearing's.")
    if change is None:
        return "cannot_tell", say("No fault lines before or after, and the two levels may not be compared.")
    if change <= -CHANGED_DB:
        return "better", say("It is {change:.0f} dB quieter than before.", change=-change)
    words = say(
        "No fault line stood before or stands now, and it is no quieter: by sound this cannot be told. Hands prove it."
    )
    return "cannot_tell", words
