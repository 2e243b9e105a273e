"""What the sums of a hub and each answer cost in the server, beside the answer of who is signed in."""

import statistics
import time

from sums.tests import test_sums

ASKED = {
    "nut": {"thread": "M24×1.5", "angle_deg": 30, **test_sums.WINDOW},
    "slots": {"thread": "M24×1.5", "lock": "castle", "slots": 6, **test_sums.WINDOW},
    "shims": {"places_mm": [3, 3, 3], "end_play_mm": 0.05, "stock": [{"mm": n / 20, "count": 3} for n in range(1, 20)]},
    "press": {"ring": "outer", "bore_mm": 40, "outside_mm": 74, "width_mm": 36},
    "life": {"load_kg": 450, "outward_mm": 30, "span_mm": 60, "radius_mm": 310},
}


class SumsBench(test_sums.Sums):
    """Prints; asserts nothing about time."""

    def milliseconds(self, ask) -> float:
        """Return the median of 15 answers."""
        times = []
        for _ in range(15):
            start = time.perf_counter()
            ask()
            times.append(1000 * (time.perf_counter() - start))
        return statistics.median(times)

    def test_print(self) -> None:
        """Measure each beside the baseline."""
        base = self.milliseconds(lambda: self.client.get("/api/session"))
        said = {"the sums of a hub": self.milliseconds(self.at_hub)}
        for key, values in ASKED.items():
            body = {"values": values, "case": str(self.case_id), "hub": "A1L"}
            said[key] = self.milliseconds(lambda key=key, body=body: self.send(f"sums/{key}", body))
        rows = "; ".join(f"{name} {ms:.0f} ms ({ms / base:.1f})" for name, ms in said.items())
        print(f"\nSums in the server, ratio to who is signed in ({base:.1f} ms): {rows}")


for name in [one for one in dir(test_sums.Sums) if one.startswith("test_")]:
    setattr(SumsBench, name, None)
