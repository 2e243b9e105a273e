"""`make bench`: what it costs, each figure as a ratio to a baseline named beside it and measured in the same run."""

import json
import math
import os
import subprocess
import sys
from collections.abc import Iterator, Sequence
from pathlib import Path
from typing import Any

from ops.build import PYTHON, ensure_python
from ops.database import Database
from ops.packages import ensure_packages
from ops.say import ROOT, say

VAR = Path(os.environ.get("HEMATITE_TEST_VAR", ROOT / "var" / "test"))

# Each listening figure is one fresh process, so that its peak memory is its own; one core by environment.
LISTEN = """
import json, resource, sys, time
import numpy as np
from scipy import signal
from hematite.bearings import Row
from hematite.listening import Situation, as_it_goes_on, listen
from hematite.recordings import Recording
from hematite.spectra import heard_bands
from hematite.vehicles import Axle, Hub, Vehicle
what, seconds, rate = sys.argv[1], int(sys.argv[2]), 48_000
row = Row.from_mm(elements=13, element_diameter_mm=12.7, pitch_diameter_mm=62, contact_angle_deg=36)
samples = (0.05 * np.random.default_rng(1).standard_normal(seconds * rate)).astype(np.float32)
spun = what == "spun"
times = np.arange(len(samples)) / rate
struck = 5.15 * 4.0 * (times - times**2 / 40) if spun else 43 * times  # a wheel let go at four turns a second
samples[np.flatnonzero(np.diff(struck.astype(int)))] += 0.4
way = "stand_spin" if spun else "stand_driven"
made = Situation("r", "A1L", gain_group="g", speed=json.loads(sys.argv[3]), situation=way)
van = Vehicle((Axle((Hub("A1L", "left", "hub_unit", (row, row)),)),), rolling_circumference_m=2.0)
def analysis(): listen(Recording(samples, rate), made, vehicle=van)
def live(): as_it_goes_on(Recording(samples, rate), made, vehicle=van)
def baseline():
    for band in heard_bands(samples, rate=rate):
        sos = signal.butter(4, [band.low_hz, band.high_hz], "bandpass", fs=rate, output="sos")
        np.abs(np.fft.rfft(np.abs(signal.hilbert(signal.sosfiltfilt(sos, samples)))))
run = {"analysis": analysis, "spun": analysis, "live": live, "baseline": baseline}[what]
times = []
for _ in range(3 if seconds < 300 and what != "live" else 1):
    start = time.process_time()
    run()
    times.append(time.process_time() - start)
peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
print(json.dumps({"s": sorted(times)[len(times) // 2], "mb": peak}))
"""


def main() -> int:
    """Print the figures; assert nothing."""
    ensure_packages(tests=False)
    ensure_python()
    _listening()
    _hearing()
    _hands()
    _weighing()
    with Database(VAR, throwaway=True) as database:
        environment = os.environ | {"HEMATITE_VAR": str(VAR)} | database.environment()
        command = [PYTHON, "server/manage.py", "test", "--no-input", "--pattern", "bench_*.py", "server"]
        return subprocess.run(command, cwd=ROOT, env=environment, check=False).returncode


# One population a process, so that the two levels run beside each other.
TRIALS = """
import json, sys
from dataclasses import asdict
from bench.recorded_score import judge_trials, score
print(json.dumps(asdict(score(judge_trials(sys.argv[1], count=int(sys.argv[2]), seed=9)))))
"""
POPULATION = 60
ONE_CORE = os.environ | {"OMP_NUM_THREADS": "1", "OPENBLAS_NUM_THREADS": "1"}


def _beside(script: str, names: Sequence[str], count: int) -> Iterator[tuple[str, dict[str, Any]]]:
    """Run a script once a name, beside each other, one core each; yield what each printed as JSON."""
    running = {
        name: subprocess.Popen(
            [PYTHON, "-c", script, name, str(count)], stdout=subprocess.PIPE, text=True, env=ONE_CORE, cwd=ROOT / "core"
        )
        for name in names
    }
    for name, process in running.items():
        yield name, json.loads(process.communicate()[0])


def _hearing() -> None:
    say(f"\nWhat is heard in {POPULATION} simulated cases a level, seed 9 (our own simulator; baseline: chance)")
    for level, shares in _beside(TRIALS, ("medium", "hard"), POPULATION):
        words = {
            "corner": "right corner (or side, in the cabin) acted on",
            "leads": "right hub leads the list (chance: a quarter)",
            "mechanism_known": "mechanism, geometry known, where the corner is right",
            "mechanism_blind": "mechanism, geometry unknown, where the corner is right",
            "falsely_accused": "a bearing accused where none is at fault",
        }
        for key, what in words.items():
            say(f"{level:>8}  {shares[key][0]:>5.0%} of {shares[key][1]:>3}  {what}")


FOLLOW = """
import json, sys
from bench.followed import DEPTHS, followed, listed, reliability, summary, told
bent = {"alike": 0.0, "bent": 0.4}[sys.argv[1]]
count = int(sys.argv[2])
found = {depth: list(told(count, seed=21, depth=depth, bent=bent)) for depth in DEPTHS}
found |= {name: list(run(count // 2, seed=22, bent=bent)) for name, run in (("followed", followed), ("listed", listed))}
said = [pair for depth in DEPTHS for one in found[depth] for pair in one.bearings]
decided = [pair for depth in DEPTHS for one in found[depth] for pair in one.choices]
print(json.dumps({name: summary(own) for name, own in found.items()} | {
    "bearings": reliability(said), "choices": reliability(decided)}))
"""
TOLD = 120


def _hands() -> None:
    say(f"\nMade-up cases of ten kinds of vehicle, {TOLD} a depth, seeds 21 and 22 (baseline: the fixed list)")
    for kind, found in _beside(FOLLOW, ("alike", "bent"), TOLD):
        say("answers by our own tables" if kind == "alike" else "answers by tables bent by 1.5 times, one deviation")
        for name in ("many", "some", "few", "followed", "listed"):
            one = found[name]
            say(
                f"  {name:>8}: best guess {one['best']:.0%}, culprits exact {one['culprits']:.0%}, "
                f"decision {one['decision']:.0%}, settled {one['settled']:.0%} and then right "
                f"{one['right_when_settled']:.0%}, a sound bearing accused {one['accused']:.1%}, "
                f"{one['tests']:.0f} tests, {one['minutes']:.0f} min"
            )
        say("  said and was, by tenths: a bearing at a hub; a decision")
        for (count, share, was), (many, said, so) in zip(found["bearings"], found["choices"], strict=True):
            say(f"  {share:>4.0%} {was:>5.0%} of {count:>5}    {said:>4.0%} {so:>5.0%} of {many:>5}")


WEIGH = """
import json, time
from hematite.beliefs import weigh
from hematite.evidence import Observation, statements_of
from hematite.following import applicable
from hematite.prices import Rates
from hematite.vehicles import Axle, Hub, Vehicle
from hematite.verdict import assess, price_choice
axles = [Axle(tuple(Hub(f"A{n}{s[0].upper()}", s, "taper_pressurised") for s in ("left", "right"))) for n in (1, 2)]
trailer = Vehicle(tuple(axles))
fine = {"rock_12_6": "nothing", "rock_3_9": "nothing", "in_out": "trace", "spin": "free", "stethoscope": "quiet",
        "heat": "cool", "coast_down": "alike", "cap_button": "proud", "tyre_edge": "even", "wheel_nuts": "tight",
        "danger_signs": "none", "hand_turned": "smooth", "opened": "clean", "lever": "none"}.items()
said = [Observation(kind, hub.id, {"answer": answer}) for hub in trailer.hubs() for kind, answer in fine]
said += [Observation("complaint", "", {"words": ["growl"]}), Observation("wheel_swap", "", {"answer": "stays"})]
said += [Observation("end_play", hub, {"readings_mm": [0.1, 0.11, 0.1]}) for hub in ("A1L", "A2L")]
def timed(run):
    times = []
    for _ in range(9):
        start = time.process_time(); run(); times.append(time.process_time() - start)
    return sorted(times)[4]
one = timed(lambda: weigh(statements_of(said[:1], trailer), trailer))
found = assess(trailer, [], said)
priced = lambda: [price_choice(found, trailer, hub.id, Rates()) for hub in trailer.hubs()]
print(json.dumps({"n": len(said), "one": one, "weigh": timed(lambda: weigh(statements_of(said, trailer), trailer)),
                  "assess": timed(lambda: assess(trailer, [], said)), "price": timed(priced)}))
"""


def _weighing() -> None:
    printed = subprocess.run(
        [PYTHON, "-c", WEIGH], capture_output=True, text=True, check=True, env=ONE_CORE, cwd=ROOT / "core"
    )
    found = json.loads(printed.stdout)
    say(f"\nWeighing {found['n']} observations of a tandem trailer; baseline: the same with one observation")
    words_of = {
        "weigh": "all probabilities, and what every witness did to them",
        "assess": "with the next test, what would overturn it, and the choice at every hub by rule",
        "price": "prices of every possible choice at every hub, beside that",
    }
    for what, words in words_of.items():
        say(f"{1000 * found[what]:>6.0f} ms, {found[what] / found['one']:>5.1f} times the baseline: {words}")


def _measure(what: str, seconds: int, speed: dict[str, object]) -> dict[str, float]:
    printed = subprocess.run(
        [PYTHON, "-c", LISTEN, what, str(seconds), json.dumps(speed)],
        capture_output=True,
        text=True,
        check=True,
        env=ONE_CORE,
    )
    return dict(json.loads(printed.stdout))


UNKNOWN, STATED = {"kind": "unknown"}, {"kind": "road", "kmh": 58}
LENGTHS_S = (10, 30, 120, 600)
LIVE_S, SPUN_S = 30, 13


def _listening() -> None:
    say("Hearing a recording, 48 kHz mono, two rows, one core.")
    say("Baseline: the same bands filtered and each put through scipy.signal.hilbert and an rfft at full length.")
    say(
        f"{'length':>8} {'speed':>8} {'analysis':>10} {'baseline':>10} {'ratio':>7} {'peak':>9} {'its peak':>9}  growth"
    )
    shortest: dict[str, float] = {}
    for seconds in LENGTHS_S:
        plain = _measure("baseline", seconds, STATED)
        for speed in (UNKNOWN, STATED):
            ours, kind = _measure("analysis", seconds, speed), str(speed["kind"])
            first = shortest.setdefault(kind, ours["s"])
            growth = ours["s"] / first / (seconds * math.log(seconds) / (LENGTHS_S[0] * math.log(LENGTHS_S[0])))
            say(
                f"{seconds:>6} s {kind:>8} {ours['s']:>8.2f} s {plain['s']:>8.2f} s {ours['s'] / plain['s']:>7.2f} "
                f"{ours['mb']:>6.0f} MB {plain['mb']:>6.0f} MB  {growth:.2f} of n·log n"
            )

    plain, ours = _measure("baseline", SPUN_S, UNKNOWN), _measure("spun", SPUN_S, UNKNOWN)
    words = f"{ours['s']:.2f} s, {ours['s'] / plain['s']:.2f} times the baseline, {ours['mb']:.0f} MB"
    say(f"A wheel let go, {SPUN_S} s of it, its course to be found: {words}.")
    _live()


def _live() -> None:
    for speed in (UNKNOWN, STATED):
        once, all_looks = _measure("analysis", LIVE_S, speed), _measure("live", LIVE_S, speed)
        seconds, times = all_looks["s"], all_looks["s"] / once["s"]
        words = f"all looks {times:.1f} times hearing it once at the end, {seconds / LIVE_S:.2f} of the time it records"
        say(f"Live ear, {LIVE_S} s, speed {speed['kind']}: {seconds:.1f} s of one core; {words}.")


if __name__ == "__main__":
    sys.exit(main())
