"""Logged courses of speed: CSV with a time and a speed, or a GPX track, to points of [s, km/h] from the start."""

import csv
import io
import math
import re
from collections.abc import Sequence
from itertools import pairwise
from xml.etree import ElementTree

import numpy as np

from hematite.errors import BadSpeed
from hematite.language import say

Points = list[list[float]]

EARTH_RADIUS_M = 6_371_008.8  # mean radius, IUGG 1980
KMH_PER = ((re.compile(r"mph|mi/h", re.I), 1.609344), (re.compile(r"m/s|mps", re.I), 3.6))  # NIST SP 811 B.8
MOST_BYTES = 20 * 1024 * 1024
FASTEST_KMH = 300.0
SMOOTHED = 5  # track points: a satellite fix wanders by metres from second to second; judgement


def read_speed_log(data: bytes) -> Points:
    """Return [s, km/h] points of a CSV or GPX log. Raises `BadSpeed` with what is amiss and what to do."""
    if len(data) > MOST_BYTES:
        raise BadSpeed(say("The speed log is larger than 20 MB. Cut it to the minutes of the recording."))
    text = data.decode("utf-8-sig", errors="replace").replace("\r\n", "\n").replace("\r", "\n")
    points = _gpx(text) if "<gpx" in text[:2000].lower() else _csv(text)
    if len(points) < 2:
        raise BadSpeed(
            say("The speed log holds hardly any points. Export time and speed as CSV, or a GPX track with times.")
        )
    return _checked(points)


def _checked(points: Points) -> Points:
    start = points[0][0]
    moved = [[t - start, v] for t, v in points]
    if any(late[0] <= early[0] for early, late in pairwise(moved)):
        raise BadSpeed(say("The times of the speed log do not rise throughout. Export it again in order of time."))
    if any(not 0 <= v <= FASTEST_KMH for _, v in moved):
        raise BadSpeed(
            say(
                "The speed log has speeds below zero or above {fastest_kmh:g} km/h. Check its unit.",
                fastest_kmh=FASTEST_KMH,
            )
        )
    return [[round(t, 3), round(v, 2)] for t, v in moved]


def _csv(text: str) -> Points:
    mark = ";" if ";" in text[:500] else "\t" if "\t" in text[:500] else ","
    if mark != ",":
        text = text.replace(",", ".")
    try:
        rows = [[cell.strip() for cell in row] for row in csv.reader(io.StringIO(text), delimiter=mark) if len(row) > 1]
    except csv.Error:
        raise BadSpeed(say("The speed log is no table that can be read. Export time and speed as CSV.")) from None
    header = rows[0] if rows and not _number(rows[0][0]) else []
    at = next((n for n, name in enumerate(header) if re.search(r"speed|velocity|km/?h|mph|m/s", name, re.I)), 1)
    factor = next((f for pattern, f in KMH_PER if header and pattern.search(header[at])), 1.0)
    return [[float(r[0]), float(r[at]) * factor] for r in rows if at < len(r) and _number(r[0]) and _number(r[at])]


def _number(cell: str) -> bool:
    try:
        return math.isfinite(float(cell))
    except ValueError:
        return False


def _gpx(text: str) -> Points:
    if "<!DOCTYPE" in text or "<!ENTITY" in text:
        raise BadSpeed(say("The GPX file declares entities of its own, which no track needs. Export it again."))
    try:
        root = ElementTree.fromstring(text)  # noqa: S314 - entities are refused above, and nothing else expands
    except ElementTree.ParseError:
        raise BadSpeed(say("The GPX file is damaged. Export the track again.")) from None
    fixes = [fix for fix in map(_fix, root.iter()) if fix]
    if len(fixes) < SMOOTHED:
        raise BadSpeed(say("The GPX track holds hardly any points with a time. Log it with times switched on."))
    gaps = [(late[0] - early[0], _metres(early, late)) for early, late in pairwise(fixes) if late[0] > early[0]]
    speeds = [metres / seconds * 3.6 for seconds, metres in gaps]
    even = np.convolve(np.pad(speeds, SMOOTHED // 2, mode="edge"), np.ones(SMOOTHED) / SMOOTHED, mode="valid")
    times = np.cumsum([0.0, *(seconds for seconds, _ in gaps)])
    return [[float(t), float(v)] for t, v in zip((times[1:] + times[:-1]) / 2, even, strict=True)]


Fix = tuple[float, float, float]  # seconds of the day and beyond, latitude and longitude in radians


def _fix(element: ElementTree.Element) -> Fix | None:
    if not element.tag.endswith("trkpt"):
        return None
    stamp = next((child.text or "" for child in element if child.tag.endswith("time")), "")
    found = re.search(r"(\d+)-(\d+)-(\d+)T(\d+):(\d+):(\d+(?:\.\d+)?)", stamp)
    try:
        place = math.radians(float(element.get("lat", ""))), math.radians(float(element.get("lon", "")))
    except ValueError:
        return None
    if not found:
        return None
    day, hour, minute, second = (float(part) for part in found.groups()[2:])
    return (((day * 24 + hour) * 60 + minute) * 60 + second, *place)


def _metres(one: Sequence[float], other: Sequence[float]) -> float:
    """Return the great-circle distance (haversine; Sinnott, Sky and Telescope 68 (1984) 159)."""
    half = math.sin((other[1] - one[1]) / 2) ** 2
    half += math.cos(one[1]) * math.cos(other[1]) * math.sin((other[2] - one[2]) / 2) ** 2
    return 2 * EARTH_RADIUS_M * math.asin(math.sqrt(half))
