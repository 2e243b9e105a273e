"""Accelerometer logs: CSV text with named or guessed columns and units, and universal files (UFF, dataset 58)."""

import csv
import io
import re
import tempfile
from collections.abc import Sequence
from pathlib import Path
from typing import Any

import numpy as np
import numpy.typing as npt
import pyuff

from hematite.errors import BadRecording
from hematite.language import say

Floats = npt.NDArray[np.float64]
Log = tuple[npt.NDArray[np.float32], int]  # samples, shape (n, channels), full scale ±1; samples a second

FULL_SCALE_MS2 = 200.0  # what is taken as full scale of an accelerometer, so that logs compare; judgement
STANDARD_GRAVITY = 9.80665  # m/s², NIST SP 811, exact
LEAST_ROWS = 100
MOST_BYTES = 120 * 1024 * 1024
LONGEST_STEP = 200.0  # in seconds or milliseconds no log steps so far; judgement
UNEVEN = 0.5  # of the middle step: a longer one is a gap that cannot be bridged; judgement
_TIME = re.compile(r"^\W*(t|time|timestamp|seconds?|zeit|ms|elapsed)\b", re.IGNORECASE)
_UNITS = (
    (re.compile(r"m/s|ms-?2|m s-?2", re.IGNORECASE), 1.0),
    (re.compile(r"(?:[\W_]|^)mg\W*$", re.IGNORECASE), STANDARD_GRAVITY / 1000),
    (re.compile(r"(?:[\[( _]|^)g\W*$", re.IGNORECASE), STANDARD_GRAVITY),
)
_ACCELERATION = re.compile(r"acc|\ba[xyz]?\b|\ba[xyz]?[_ (\[]|^[xyz]\b|m/s|ms-?2|[\[(]m?g[\])]|_m?g$", re.IGNORECASE)
_OTHER = re.compile(
    r"temp|°|\bdeg|index|\bn(?:o|r|um(?:ber)?)?\b|sample|count|press|volt|batt|speed|gyro|mag|\brow\b", re.IGNORECASE
)
RESTS_IN_G = (0.5, 1.5)  # a resting pickup shows one g over its axes together; judgement
SMOOTH_SHARE = 0.02  # of the roughest column's change from row to row: a smoother one is no vibration; judgement


def read_csv(data: bytes) -> Log:
    """Read a log of a time column and one or more accelerations. Raises `BadRecording` with what is amiss.

    The time column is the one named so, else the first that only rises; a header in ms, or steps too long for
    seconds, mean milliseconds. Units come from the header; without one, a resting axis near 1 means g.
    """
    names, table = _table(data)
    at = _time_column(names, table)
    times = _seconds(table[:, at], names[at])
    kept = _accelerations(names, table, at)
    channels = table[:, kept]
    factors = _factors([names[n] for n in kept], channels)
    rate = round(1 / float(np.median(np.diff(times))))
    even = np.arange(times[0], times[-1], 1 / rate)
    values = [
        np.interp(even, times, (c - c.mean()) * f / FULL_SCALE_MS2) for c, f in zip(channels.T, factors, strict=True)
    ]
    return np.stack(values, axis=1).astype(np.float32), rate


def _table(data: bytes) -> tuple[Sequence[str], Floats]:
    """Return the columns' names, a row of units below the header joined to them, and the figures."""
    if len(data) > MOST_BYTES:
        raise BadRecording(say("The log is larger than 120 MB. Cut it to the seconds that matter."))
    text = data.decode("utf-8-sig", errors="replace").replace("\r\n", "\n").replace("\r", "\n")
    first = next((line for line in text.splitlines() if re.search(r"\d", line)), "")
    mark = ";" if ";" in first else "\t" if "\t" in first else ","
    if mark != ",":
        text = text.replace(",", ".")
    try:
        rows = [row for row in csv.reader(io.StringIO(text), delimiter=mark) if row]
    except csv.Error:
        raise BadRecording(say("The log is no table that can be read. Export time and acceleration as CSV.")) from None
    numbers = [values for values in map(_numbers, rows) if values]
    if len(numbers) < LEAST_ROWS:
        raise BadRecording(say("The log has hardly any rows of figures. Export time and acceleration as CSV."))
    width = max(set(map(len, numbers)), key=[len(values) for values in numbers].count)
    table = np.array([values for values in numbers if len(values) == width])
    if width < 2:
        raise BadRecording(say("The log has one column only. Export the time beside the acceleration."))
    words = [row for row in rows if len(row) == width and not _numbers(row)][:2]
    return [" ".join(cells).strip() for cells in zip(*words, strict=True)] if words else [""] * width, table


def _accelerations(names: Sequence[str], table: Floats, at: int) -> list[int]:
    """Return the columns that are accelerations: not the time, no running number, nothing named otherwise.

    Raises `BadRecording` where none is left, or where unnamed columns leave it open.
    """
    others = [n for n in range(table.shape[1]) if n != at]
    named = [n for n in others if _ACCELERATION.search(names[n])]
    kept = named or [n for n in others if not _OTHER.search(names[n]) and not _counts(table[:, n])]
    if not kept:
        raise BadRecording(say("The log has a time column and nothing else. Export at least one acceleration."))
    unlike = not named and len(kept) > 1 and not any(names[n].strip() for n in kept) and _unlike(table[:, kept])
    if unlike:
        raise BadRecording(
            say(
                "The log has several columns without names, and not all look like accelerations. Name them in a "
                "header, such as time_s, ax_g."
            )
        )
    return kept


def _counts(column: Floats) -> bool:
    """Return whether a column only counts the rows."""
    steps = np.diff(column)
    return bool(len(steps) and (steps == steps[0]).all() and float(steps[0]).is_integer() and steps[0] != 0)


def _unlike(columns: Floats) -> bool:
    """Return whether columns differ so much in what they do that one is no acceleration: drift against vibration."""
    rough = np.abs(np.diff(columns, axis=0)).mean(axis=0) / (np.ptp(columns, axis=0) + 1e-12)
    return bool(rough.min() < SMOOTH_SHARE * rough.max())


def _factors(names: Sequence[str], channels: Floats) -> list[float]:
    """Return m/s² for one of each column's unit; axes without a unit share what the resting one shows."""
    said = [_factor(name) for name in names]
    unsaid = [n for n, factor in enumerate(said) if factor is None]
    rest = float(np.linalg.norm(channels[:, unsaid].mean(axis=0))) if unsaid else 0.0
    guessed = STANDARD_GRAVITY if RESTS_IN_G[0] < rest < RESTS_IN_G[1] else 1.0
    return [guessed if factor is None else factor for factor in said]


def _numbers(row: Sequence[str]) -> list[float]:
    try:
        values = [float(cell) for cell in row]
    except ValueError:
        return []
    return values if np.isfinite(values).all() else []


def _time_column(names: Sequence[str], table: Floats) -> int:
    named = [n for n, name in enumerate(names) if _TIME.match(name)]
    rising = [n for n in range(table.shape[1]) if (np.diff(table[:, n]) > 0).all()]
    for n in (*named, *rising):
        if n in rising:
            return n
    raise BadRecording(say("No column of the log is a time that only rises. Export the time beside the acceleration."))


def _seconds(times: Floats, name: str) -> Floats:
    step = float(np.median(np.diff(times)))
    if step > LONGEST_STEP:  # stamps in microseconds or nanoseconds: whatever brings the step below a tenth of a second
        times = times / (1e9 if step > 1e5 else 1e6)
        step = float(np.median(np.diff(times)))
    milliseconds = bool(re.search(r"\bms\b|milli", name, re.IGNORECASE)) or (
        not re.search(r"\bs\b|sec", name) and step > 0.02
    )
    times = times / 1000 if milliseconds else times
    steps = np.diff(times)
    if steps.max() > (1 + UNEVEN) * np.median(steps) + 0.05:
        raise BadRecording(
            say("The log has a gap of {seconds:.2f} s. Log without pauses, or cut it there.", seconds=steps.max())
        )
    return times


def _factor(name: str) -> float | None:
    """Return m/s² for one of the unit that a column's name says, None where it says none."""
    return next((factor for pattern, factor in _UNITS if pattern.search(name)), None)


def read_uff(data: bytes) -> Log:
    """Read the time histories (dataset 58) of a universal file, the first rate found. Raises `BadRecording`."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "log.uff"
        path.write_bytes(data)
        try:
            found = pyuff.UFF(str(path)).read_sets()
        except Exception:  # the library raises whatever its parsing trips over
            raise BadRecording(say("The universal file is damaged. Export it again, or give WAV or CSV.")) from None
    sets = [s for s in (found if isinstance(found, list) else [found]) if s.get("type") == 58 and s.get("abscissa_inc")]
    sets = [s for s in sets if s["abscissa_inc"] == sets[0]["abscissa_inc"] and len(s["data"]) == len(sets[0]["data"])]
    if not sets or np.iscomplexobj(sets[0]["data"]):
        raise BadRecording(say("The universal file holds no evenly sampled time history (dataset 58)."))
    values = [(s["data"] - np.mean(s["data"])) * _uff_factor(s) / FULL_SCALE_MS2 for s in sets]
    return np.stack(values, axis=1).astype(np.float32), round(1 / float(sets[0]["abscissa_inc"]))


def _uff_factor(found: dict[str, Any]) -> float:
    return STANDARD_GRAVITY if str(found.get("ordinate_axis_units_lab", "")).strip().lower() == "g" else 1.0


def encode_uff(samples: npt.NDArray[np.float32], *, rate: int, name: str) -> bytes:
    """Return mono samples, shape (n,), as a universal file (dataset 58, time response), in m/s²."""
    dataset = pyuff.prepare_58(
        func_type=1, id1=name, rsp_node=1, rsp_dir=1, ref_node=1, ref_dir=1, binary=0,
        data=samples.astype(np.float64) * FULL_SCALE_MS2, x=np.arange(len(samples)) / rate,
        abscissa_spacing=1, abscissa_inc=1 / rate, abscissa_min=0.0, abscissa_spec_data_type=17,
        abscissa_axis_units_lab="s", ordinate_spec_data_type=12, ordinate_axis_units_lab="m/s2",
        orddenom_spec_data_type=0, num_pts=len(samples), ord_data_type=4,
    )  # fmt: skip
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "log.uff"
        pyuff.UFF(str(path)).write_sets(dataset, mode="overwrite")
        return path.read_bytes()
