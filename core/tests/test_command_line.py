"""The core's own command line: spoken and JSON, refusals on stderr with a code of 2."""

import contextlib
import io
import json
import tempfile
import unittest
from pathlib import Path

from hematite.__main__ import main
from hematite.recordings import encode_wav
from hematite.simulator import simulate
from hematite.vehicles import Hub

CASE = {
    "format": "hematite-case",
    "version": 1,
    "vehicle": {
        "axles": [
            {
                "hubs": [
                    {"id": "A1L", "side": "left", "design": "hub_unit"},
                    {"id": "A1R", "side": "right", "design": "hub_unit"},
                ]
            }
        ]
    },
    "observations": [
        {"kind": "part", "hub": "A1L", "part": "unit", "finds": ["glitter"]},
        {"kind": "part", "hub": "A1R", "part": "circlip", "finds": ["fast_good"]},
    ],
}


class CommandLine(unittest.TestCase):
    """Said to a person, or as JSON."""

    def setUp(self) -> None:
        """Write a case folder."""
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        (self.folder / "case.json").write_text(json.dumps(CASE))

    def run_it(self, *words: str) -> tuple[int, str, str]:
        """Return code, stdout, stderr."""
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            code = main(list(words))
        return code, out.getvalue(), err.getvalue()

    def policy(self, data: object) -> str:
        """Write a policy and return where."""
        path = self.folder / "policy.json"
        path.write_text(data if isinstance(data, str) else json.dumps(data))
        return str(path)

    def test_an_opened_hub_of_a_bundle(self) -> None:
        """Metal in the unit: replace it, gently to the workshop; a part that the hub has not is left out and named."""
        code, out, _ = self.run_it("assess", str(self.folder), "--json")
        found = json.loads(out)
        self.assertEqual(code, 0)
        decision = found["decision"]
        self.assertEqual((decision["hub"], decision["choice"], decision["off_road"]), ("A1L", "replace_unit", False))
        self.assertEqual((decision["rule"], decision["road"]["key"], decision["settled"]), ("metal", "gently", True))
        self.assertEqual(len(found["left_out"]), 1)
        self.assertIn("How far it can go: Only gently", self.run_it("assess", str(self.folder))[1])

    def test_by_a_workshops_policy(self) -> None:
        """A workshop that presses new bearings; a policy that cannot be is refused in words."""
        press = self.policy({"schools": {"rusted_unit": "press"}})
        found = json.loads(self.run_it("assess", str(self.folder), "--policy", press, "--json")[1])
        self.assertEqual(found["decision"]["choice"], "replace_bearing")
        for data, words in (
            ({"schools": {"rusted_unit": "melt"}}, "Rusted"),
            ("[1]", "no policy"),
            ("{half", "cannot be read"),
        ):
            code, _, err = self.run_it("assess", str(self.folder), "--policy", self.policy(data))
            self.assertEqual(code, 2)
            self.assertIn(words, err)

    def test_which_bearing(self) -> None:
        """A caliper's figures, spoken and as JSON; a bore that cannot be is refused."""
        found = json.loads(self.run_it("bearing", "--bore", "25", "--outside", "52", "--width", "15", "--json")[1])
        self.assertEqual([size["designation"] for size in found["fits"]], ["6205"])
        spoken = self.run_it("bearing", "--bore", "25", "--outside", "47")[1]
        self.assertIn("It fits: 6005", spoken)
        self.assertIn("Still to be measured: width.", spoken)
        self.assertEqual(self.run_it("bearing", "--bore", "thick", "--outside", "47")[0], 2)

    def test_a_plan(self) -> None:
        """Steps, lists and the order of the day, said and as JSON; what cannot be done at a hub is refused."""
        words = (
            "plan",
            "--design",
            "axle_retained",
            "--choice",
            "replace_bearing",
            "--driven",
            "--brake",
            "drum",
            "--both",
        )
        found = json.loads(self.run_it(*words, "--json")[1])
        ids = [step["id"] for step in found["steps"]]
        self.assertLess(ids.index("A1L.retainer_plate.on"), ids.index("A1L.sealed_bearing.on"))
        self.assertIn("A1R.half_shaft.off", ids)
        torque = next(step["torque"] for step in found["steps"] if step["id"] == "A1L.retainer_bolts.on")
        self.assertEqual((torque["aim_nm"], torque["seen"][0]["nm"]), (None, [68.0]))
        self.assertEqual({row["key"] for row in found["assumed"]["A1L"]}, {"wheel_spacer", "anti_roll_bar"})
        spoken = self.run_it(*words, "--hands", "2")[1]
        self.assertIn("To buy: Four retainer bolts (A1L)", spoken)
        self.assertIn("It takes a press of 20 t", spoken)
        freed = json.loads(self.run_it(*words, "--freed", "A1L.retaining_ring.off=heat", "--json")[1])
        self.assertIn("A1L.retaining_ring.free-heat", [step["id"] for step in freed["steps"]])
        self.assertIn("1. Soak and wait", self.run_it("stuck", "--part", "unit")[1])
        self.assertEqual(json.loads(self.run_it("stuck", "--part", "lift", "--json")[1])["rungs"], [])
        self.assertEqual(self.run_it("stuck", "--part", "moon")[0], 2)
        for bad, said in (
            (("--freed", "A1L.retaining_ring.off=pray"), "no known way of freeing it"),
            (("--choice", "adjust"), "nothing to adjust"),
            (("--choice", "dance"), "no known choice"),
            (("--hands", "none"), "must be a number"),
            (("--fitted", "brake"), "says nothing"),
            (("--brake", "anchor"), "no known answer"),
            (("--way", "races_out=pray"), "no known way"),
        ):
            code, _, err = self.run_it(*words, *bad)
            self.assertEqual((code, said in err), (2, True), (bad, err))

    def test_a_recording_as_it_goes_on(self) -> None:
        """Every look at a bundle's recording, said and as JSON; a recording that the bundle has not is refused."""
        hub = Hub("A1L", "left", "hub_unit")
        sound = simulate(hub, condition="brake", turns_per_s=8.0, duration_s=6.0, seed=1)
        (self.folder / "r1.wav").write_bytes(encode_wav(sound))
        made = {"id": "r1", "file": "r1.wav", "place": "A1L", "speed": {"kind": "wheel", "turns_per_s": 8.0}}
        (self.folder / "case.json").write_text(json.dumps(CASE | {"recordings": [made]}))
        code, out, _ = self.run_it("live", str(self.folder), "r1", "--json")
        steps = json.loads(out)["steps"]
        self.assertEqual((code, [step["seconds"] for step in steps]), (0, [2.5, 5.0, 6.0]))
        self.assertEqual((steps[0]["families"], steps[-1]["families"][0]["kind"]), ([], "once_a_turn"))
        self.assertIn("5.0 s  Enough", self.run_it("live", str(self.folder), "r1")[1])
        code, _, err = self.run_it("live", str(self.folder), "r9")
        self.assertEqual((code, "r1" in err), (2, True))
