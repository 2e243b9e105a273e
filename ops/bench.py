"""`make bench`: what it costs, each figure as a ratio to a baseline named beside it and measured in the same run."""

import json
import math
import os
import subprocess
import sys
from pathlib import Path

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
from hematite.listening import Situation, listen
from hematite.recordings import Recording
from hematite.spectra import heard_bands
from hematite.vehicles import Axle, Hub, Vehicle
what, seconds, rate = sys.argv[1], int(sys.argv[2]), 48_000
row = Row.from_mm(elements=13, element_diameter_mm=12.7, pitch_diameter_mm=62, contact_angle_deg=36)
samples = (0.05 * np.random.default_rng(1).standard_normal(seconds * rate)).astype(np.float32)
samples[:: rate // 43] += 0.4
made = Situation("r", "A1L", gain_group="g", speed=json.loads(sys.argv[3]))
van = Vehicle((Axle((Hub("A1L", "left", "hub_unit", (row, row)),)),), rolling_circumference_m=2.0)
def analysis(): listen(Recording(samples, rate), made, vehicle=van)
def baseline():
    for band in heard_bands(samples, rate=rate):
        sos = signal.butter(4, [band.low_hz, band.high_hz], "bandpass", fs=rate, output="sos")
        np.abs(np.fft.rfft(np.abs(signal.hilbert(signal.sosfiltfilt(sos, samples)))))
run = {"analysis": analysis, "baseline": baseline}[what]
times = []
for _ in range(3 if seconds < 300 else 1):
    start = time.process_time()
    run()
    times.append(time.process_time() - start)
print(json.dumps({"s": sorted(times)[len(times) // 2], "mb": resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024}))
"""


def main() -> int:
    """Print the figures; assert nothing."""
    ensure_packages(tests=False)
    ensure_python()
    _listening()
    _hearing()
    with Database(VAR, throwaway=True) as database:
        environment = os.environ | {"HEMATITE_VAR": str(VAR)} | database.environment()
        command = [PYTHON, "server/manage.py", "test", "--no-input", "--pattern", "bench_*.py", "server"]
        return subprocess.run(command, cwd=ROOT, env=environment, check=False).returncode


# One population a process, so that the two levels run beside each other.
TRIALS = """
import json, sys
from dataclasses import asdict
from hematite.simulator.scoring import judge_trials, score
print(json.dumps(asdict(score(judge_trials(sys.argv[1], count=int(sys.argv[2]), seed=9)))))
"""
POPULATION = 60


def _hearing() -> None:
    say(f"\nWhat is heard in {POPULATION} simulated cases a level, seed 9 (our own simulator; baseline: chance)")
    one_core = os.environ | {"OMP_NUM_THREADS": "1", "OPENBLAS_NUM_THREADS": "1"}
    running = {
        level: subprocess.Popen(
            [PYTHON, "-c", TRIALS, level, str(POPULATION)], stdout=subprocess.PIPE, text=True, env=one_core
        )
        for level in ("medium", "hard")
    }
    for level, process in running.items():
        shares = json.loads(process.communicate()[0])
        words = {
            "corner": "right corner (or side, in the cabin) acted on",
            "leads": "right hub leads the list (chance: a quarter)",
            "mechanism_known": "mechanism, geometry known, where the corner is right",
            "mechanism_blind": "mechanism, geometry unknown, where the corner is right",
            "falsely_accused": "a bearing accused where none is at fault",
        }
        for key, what in words.items():
            say(f"{level:>8}  {shares[key][0]:>5.0%} of {shares[key][1]:>3}  {what}")


def _measure(what: str, seconds: int, speed: dict[str, object]) -> dict[str, float]:
    one_core = os.environ | {"OMP_NUM_THREADS": "1", "OPENBLAS_NUM_THREADS": "1"}
    printed = subprocess.run(
        [PYTHON, "-c", LISTEN, what, str(seconds), json.dumps(speed)],
        capture_output=True,
        text=True,
        check=True,
        env=one_core,
    )
    return dict(json.loads(printed.stdout))


UNKNOWN, STATED = {"kind": "unknown"}, {"kind": "road", "kmh": 58}
LENGTHS_S = (10, 30, 120, 600)


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


if __name__ == "__main__":
    sys.exit(main())
