"""Blind listening: trials of a pair, each answered once, and what they come to."""

import io
import secrets
from uuid import UUID

import soundfile
from django.db import transaction
from django.http import Http404
from hematite.evidence.witnesses import label_of
from hematite.language import say
from hematite.tables import table
from hematite.training.levels import level, levels
from hematite.training.pairs import HEADPHONES, by_chance, named, pairs, sound_of, through_headphones, trial
from people.models import User
from workshop.refusals import Refusal

from training.models import Heard
from training.rounds import SEEDS


def begin(user: User, *, trial_id: UUID, pair: str, number: int) -> Heard:
    """Begin a trial; asked for twice it is one."""
    known = Heard.objects.filter(id=trial_id).first()
    if known is not None and (known.person_id, known.pair) != (user.pk, pair):
        raise Refusal("id_taken", say("This trial's number is taken by another. Begin it again."))
    if known is not None:
        return known
    level(number)
    seed = secrets.randbelow(SEEDS)
    trial(pair, seed=seed)
    return Heard.objects.create(id=trial_id, person=user, pair=pair, level=number, seed=seed)


def get_trial(user: User, trial_id: UUID) -> Heard:
    """Return one's own trial, or raise Http404."""
    found = Heard.objects.filter(id=trial_id, person_id=user.pk).first()
    if found is None:
        raise Http404
    return found


def wav_of(row: Heard, which: str) -> bytes:
    """Return one sound of a trial as WAV."""
    samples, rate = sound_of(row.pair, which, number=row.level, seed=row.seed)
    out = io.BytesIO()
    soundfile.write(out, samples, rate, format="WAV", subtype="PCM_16")
    return out.getvalue()


@transaction.atomic
def answer(user: User, trial_id: UUID, said: str) -> Heard:
    """Keep what somebody says X is. Said twice, the first counts."""
    Heard.objects.filter(id=trial_id).select_for_update().first()
    row = get_trial(user, trial_id)
    known = trial(row.pair, seed=row.seed)
    if said not in known.answers:
        raise Refusal("no_answer", say("That is no answer to this question. Choose one of those shown."), status=422)
    if not row.said:
        row.said, row.right = said, said == known.right
        row.save(update_fields=["said", "right"])
    return row


def trial_out(row: Heard) -> dict:
    """Return a trial; what X is, and what A and B are, only once it is answered."""
    known = trial(row.pair, seed=row.seed)
    told = None
    if row.said:
        whats = {which: _called(row, which) for which in known.answers} if row.pair != HEADPHONES else {}
        told = {"right": row.right, "was": known.right, "names": whats, "tell": _tell(row.pair)}
    return {
        "id": row.id,
        "pair": row.pair,
        "sounds": known.sounds,
        "answers": known.answers,
        "said": row.said,
        "told": told,
    }


def _called(row: Heard, which: str) -> str:
    cause = named(row.pair, which, seed=row.seed)
    return label_of(cause) if cause else say("a sound bearing")


def _tell(pair: str) -> str:
    return pairs()[pair].tell if pair in pairs() else ""


def ears_out(user: User) -> dict:
    """Return the pairs with how often somebody was right, and whether they listen by headphones."""
    said: dict[str, list[bool]] = {}
    for key, right in Heard.objects.filter(person=user).exclude(right=None).values_list("pair", "right"):
        said.setdefault(key, []).append(bool(right))
    phones = table("training/pairs.toml")[HEADPHONES]
    own = said.get(HEADPHONES, [])
    return {
        "pairs": [_pair_out(key, said.get(key, [])) for key in pairs()],
        "levels": [{"key": str(number), "words": row.label} for number, row in levels().items()],
        "headphones": through_headphones(own),
        "headphones_label": phones["label"],
        "headphones_of": phones["of"],
        "headphones_done": len(own) % phones["of"],
    }


def _pair_out(key: str, said: list[bool]) -> dict:
    right = sum(said)
    return {
        "key": key,
        "label": pairs()[key].label,
        "of": len(said),
        "right": right,
        "by_chance": by_chance(right, len(said)),
    }
