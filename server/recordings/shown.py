"""Recordings as the screens see them."""

from collections.abc import Iterable
from dataclasses import asdict

from cases.models import Withheld
from hematite.evidence.on_the_road import SURE_DEVIATIONS
from hematite.families import Family, surest_first
from hematite.families.words import family_words
from hematite.listening import Corner, RoadTest, SoFar, compare, heard_from_json, how_surely

from recordings.hearing import of_another_hearing
from recordings.models import Recording


def recordings_out(rows: Iterable[Recording]) -> list[dict]:
    """Return recordings with their levels against each other; set-aside ones do not count among the corners."""
    rows = list(rows)
    standing = [row for row in rows if row.analysis.state == "done" and not row.withdrawn]
    corners = {}
    for after in (False, True):
        part = [row for row in standing if row.after_repair is after]
        corners |= dict(
            zip((r.id for r in part), compare([heard_from_json(r.analysis.heard) for r in part]), strict=True)
        )
    return [recording_out(row, corners.get(row.id)) for row in rows]


def recording_out(row: Recording, corner: Corner | None = None) -> dict:
    """Return one recording; of a practice case, before one's own ear has spoken, only how good it is."""
    known = heard_from_json(row.analysis.heard) if row.analysis.state == "done" else None
    heard = None if row.case.withheld == Withheld.HEARD else known
    corner = corner if heard else None
    return {
        "id": row.id,
        "place": row.place,
        "sensor": row.sensor,
        "situation": row.situation,
        "gain_group": row.gain_group,
        "speed": row.speed,
        "segments": row.segments,
        "after_repair": row.after_repair,
        "withdrawn": row.withdrawn,
        "person": row.person.shown_name,
        "made_at": row.made_at,
        "duration_s": row.sound.duration_s,
        "rate": row.sound.rate,
        "state": row.analysis.state,
        "withheld": heard is None and known is not None,
        "error": row.analysis.error,
        "heard_by": row.analysis.core_version,
        "heard_by_another": known is not None and of_another_hearing(row.analysis.core_version),
        "ended_at": row.sound.ended_at,
        "usable": bool(known and known.usable),
        "level_db": heard.level_db if heard else None,
        "relative_db": corner.relative_db if corner else None,
        "turns_per_s": heard.turns_per_s if heard else None,
        "speed_words": heard.speed_words if heard else "",
        "drag": asdict(heard.drag) if heard and heard.drag else None,
        "tones": [asdict(tone) for tone in heard.tones] if heard else [],
        "road": [_road_test(test) for test in heard.road if test.words] if heard else [],
        "thirds_db": corner.thirds_db if corner else [],
        "echoes": sorted(corner.echoes) if corner else [],
        "band_low_hz": heard.band.low_hz if heard and heard.band else None,
        "band_high_hz": heard.band.high_hz if heard and heard.band else None,
        "quality": [asdict(finding) for finding in known.quality] if known else [],
        "families": [_family(family) for family in surest_first(heard.families)] if heard else [],
    }


def live_out(found: SoFar) -> dict:
    """Return what a recording tells while it is still being made."""
    return {
        "seconds": found.seconds,
        "turns_per_s": found.heard.turns_per_s if found.heard else None,
        "speed_words": found.heard.speed_words if found.heard else "",
        "families": [_family(family) | {"surely": how_surely(family)} for family in found.standing],
        "decided": found.decided,
        "words": found.words,
    }


def _family(family: Family) -> dict:
    lines = [{"name": name, "order": order, "db": db} for name, order, db in family.lines]
    said = {name: getattr(family, name) for name in ("odds", "standing", "by_chance")} | {"words": family_words(family)}
    return asdict(family) | said | {"lines": lines}


def _road_test(test: RoadTest) -> dict:
    return asdict(test) | {"surely": abs(test.deviations) >= SURE_DEVIATIONS}
