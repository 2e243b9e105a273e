"""The jobs as hands do them, design by design: order, traps and the way back. Common practice, no source."""

import unittest
from dataclasses import replace

from hematite.fastenings import Fastening
from hematite.jobs import HubJob, Step, both_sides, followed_by, is_step, lists, plan
from hematite.vehicles import Axle, Hub, Vehicle

from tests.job_space import vehicle


def wagon(design: str, *, kind: str = "powered", driven: bool = False, steered: bool = False, **said: str) -> Vehicle:
    """Return a vehicle with two hubs of a design in front."""
    return vehicle(design, kind=kind, driven=driven, steered=steered, said=said)


class Walked(unittest.TestCase):
    """One plan at A1L."""

    def walk(self, what: Vehicle, choice: str, **more: object) -> dict[str, Step]:
        """Return the steps of one hub's job by what is left of their ids without the hub, in order."""
        made = plan(what, [HubJob("A1L", choice, **more)])  # type: ignore[arg-type]
        self.renewed = {one.part: one.because for one in made.renewed}
        self.assertEqual([step.id for step in made.steps if not is_step(step.id, ["A1L"])], [])
        return {step.id.removeprefix("A1L."): step for step in made.steps}

    def in_turn(self, steps: dict[str, Step], ids: str) -> None:
        """Hold that steps come in this turn."""
        places = [list(steps).index(id) for id in ids.split()]
        self.assertEqual(places, sorted(places), ids)

    def says(self, step: Step, *words: str) -> None:
        """Hold that a step, or a caution beside it, says something."""
        text = " ".join((step.do, step.see, *step.cautions)).lower()
        for word in words:
            self.assertIn(word.lower(), text, step.id)


class Knuckles(Walked):
    """Hub units and bearings pressed in a knuckle."""

    def test_a_driven_unit(self) -> None:
        """The axle nut is cracked on the ground and torqued on the ground; in the air it only draws the shaft home."""
        steps = self.walk(wagon("hub_unit", driven=True, steered=True), "replace_unit")
        self.in_turn(
            steps,
            """
            wheel_nuts.off axle_nut_grip.off lift.off wheel.off axle_nut.off caliper.off disc.off sensor.off
            shaft.off unit_bolts.off unit.off look knuckle.bore unit.pattern unit.on unit_bolts.on shaft.on disc.on
            caliper.on axle_nut.on wheel.linings-disc wheel.on lift.on axle_nut_grip.on wheel_nuts.on pedal lamp
            drive nuts_again
            """,
        )
        self.says(steps["unit.off"], "plate comes too", "which way round")
        self.says(steps["unit.pattern"], "not symmetric", "before it is lifted in")
        self.says(steps["unit.on"], "never pulled in by an impact gun", "magnets")
        self.says(steps["unit_bolts.on"], "started by hand", "star", "show through on the far side")
        self.says(steps["axle_nut_grip.on"], "stake", "tighten on, never back")
        self.says(steps["caliper.off"], "bracket", "never hang a caliper by its hose")
        self.assertEqual(self.renewed, {"axle_nut": "one_time", "unit_bolts": "one_time", "unit": "decided"})

    def test_a_unit_on_a_stub(self) -> None:
        """By its centre nut: studs and tone ring move to the new one; the nut is torqued and staked at its rim."""
        steps = self.walk(wagon("hub_unit", fastening="centre_nut"), "replace_unit")
        self.in_turn(
            steps,
            """
            dust_cap.off axle_nut.off unit.off unit.studs unit.ring unit.on axle_nut.on dust_cap.on wheel.on
            """,
        )
        self.assertNotIn("unit_bolts.off", steps)
        self.says(steps["unit.studs"], "nut on their end", "spacer and a nut")
        self.says(steps["unit.ring"], "square")
        self.says(steps["axle_nut.on"], "staked at its rim")

    def test_rusted_in(self) -> None:
        """Bore and bolt ends soak while the rest comes off; the school of the ready knuckle takes it off whole."""
        steps = self.walk(wagon("hub_unit", rust="yes"), "replace_unit")
        self.in_turn(steps, "wheel.off unit_bolts.soak caliper.off unit_bolts.off")
        self.assertEqual(steps["unit_bolts.soak"].wait, 30)
        steps = self.walk(wagon("hub_unit", rust="yes", steered="yes"), "replace_unit", ways={"rusted_unit": "knuckle"})
        self.assertNotIn("unit.off", steps)
        self.in_turn(steps, "lower_joint.off knuckle_whole.off knuckle_whole.on lower_joint.on geometry")
        self.assertEqual(self.renewed["knuckle_whole"], "decided")

    def test_pressed_in_a_knuckle(self) -> None:
        """Knuckle to the vice; circlip, flange, bearing; the new one on its outer ring, then circlip, then flange."""
        steps = self.walk(wagon("pressed_double_row", driven=True, steered=True), "replace_bearing")
        self.in_turn(
            steps,
            """
            axle_nut_grip.off lift.off axle_nut.off caliper.off sensor.off shaft.off knuckle_whole.off circlip.off
            hub_flange.off sealed_bearing.off look hub_flange.half-ring knuckle.bore-oil sealed_bearing.on
            circlip.on hub_flange.on knuckle_whole.on shaft.on strut_bolts.on tie_rod.on caliper.on wheel.on lift.on
            axle_nut_grip.on geometry
            """,
        )
        for joint in ("tie_rod.off", "lower_joint.off"):
            self.says(steps[joint], "one sharp blow on the eye", "never on the joint")
        self.says(steps["strut_bolts.off"], "mark")
        self.says(steps["hub_flange.off"], "close to the bore")
        self.says(steps["sealed_bearing.on"], "outer ring", "magnetic side to the sensor")
        self.says(steps["hub_flange.on"], "inner ring held from below", "turned", "studs free")
        self.says(steps["circlip.off"], "circlip flies")
        self.says(steps["lower_joint.on"], "on to the next slot")
        self.assertEqual({s.press_t for s in steps.values() if s.press_t}, {20})

    def test_a_quad(self) -> None:
        """Separate seals are always new; two arms, no strut; where no shaft drives nothing waits for the ground."""
        steps = self.walk(
            wagon("pressed_double_row", steered=True, seals="separate", suspension="arms", sensor="no"),
            "replace_bearing",
        )
        self.in_turn(steps, "outer_seal.off circlip.off sealed_bearing.on circlip.on outer_seal.on hub_flange.on")
        self.assertLessEqual({"outer_seal", "inner_seal"}, set(self.renewed))
        self.assertIn("upper_joint.off", steps)
        self.assertNotIn("strut_bolts.off", steps)
        self.assertNotIn("axle_nut_grip.on", steps)
        self.says(steps["axle_nut.on"], "bar between two studs", "never on their threads")
        self.assertNotIn("sensor", steps["sealed_bearing.on"].do)


class Tapers(Walked):
    """Opposed taper rollers."""

    def test_new_bearings_under_a_castle_nut(self) -> None:
        """Cups by drift, the inner bearing before its seal, set, locked, played again; pin and seal always new."""
        steps = self.walk(wagon("taper_castle", kind="trailer", brake="drum"), "replace_bearing")
        self.in_turn(
            steps,
            """
            cap.off pin.off nut.off washer.off outer_bearing.off hub.off seal.off inner_bearing.off inner_cup.off
            look inner_bearing.wash inner_cup.on inner_bearing.pack inner_bearing.on seal.on hub.on outer_bearing.on
            washer.on nut.on nut.set-dial pin.on pin.again cap.on wheel.on lift.on
            """,
        )
        self.says(steps["outer_bearing.off"], "must not fall in the dirt")
        self.says(
            steps["outer_cup.on"],
            "wide end outwards",
            "sounds dead until the cup is home, then rings clear",
            "running face",
        )
        self.says(steps["seal.on"], "flat and flush", "spring side in", "greased")
        self.says(steps["hub.on"], "thread of the spindle cuts the lip")
        self.says(steps["washer.on"], "tongue")
        self.says(steps["pin.on"], "clear of the cap")
        self.says(steps["inner_bearing.wash"], "compressed air")
        self.assertLessEqual(
            {"pin": "one_time", "seal": "one_time", "outer_cup": "decided"}.items(), self.renewed.items()
        )
        welded = self.walk(wagon("taper_castle"), "replace_bearing", ways={"races_out": "weld"})
        self.says(welded["inner_cup.off"], "weld bead", "seals, grease")

    def test_setting_by_school(self) -> None:
        """Only the lock comes off; by light torque the wheel too; by feel no gauge is laid out."""
        steps = self.walk(wagon("taper_castle"), "adjust")
        self.assertNotIn("wheel.off", steps)
        self.in_turn(steps, "cap.off pin.off nut.set-dial pin.on pin.again cap.on")
        self.assertIn("wheel.off", self.walk(wagon("taper_castle"), "adjust", ways={"nut_setting": "light_torque"}))
        felt = self.walk(wagon("taper_castle"), "adjust", ways={"nut_setting": "feel"})
        self.says(felt["nut.set-feel"], "just grabs", "tyre")
        self.assertNotIn("dial", felt["nut.set-feel"].tools)

    def test_a_pressurised_cap(self) -> None:
        """Topping up opens nothing; to set it the wheel is off; filled before the lock, the button proud again."""
        top_up = self.walk(wagon("taper_pressurised", kind="trailer"), "top_up")
        self.assertEqual(list(top_up), ["spring_cap.top-up", "spring_cap.trips"])
        self.says(top_up["spring_cap.top-up"], "button stands proud", "stop")
        steps = self.walk(wagon("taper_pressurised", kind="trailer"), "repack")
        self.in_turn(
            steps,
            """
            spring_cap.off marine_seal.off inner_bearing.on marine_seal.on hub.on nut.set-dial nut.fill pin.on
            spring_cap.on
            """,
        )
        self.says(steps["nut.fill"], "all round the washer", "fitting out")
        self.says(steps["spring_cap.on"], "sealant", "tube", "stands proud again")
        self.assertIn("wheel.off", self.walk(wagon("taper_pressurised", kind="trailer"), "adjust"))

    def test_behind_a_flange(self) -> None:
        """Flange, lock, nut; the plate's plain holes; the flange's bolts to the middle; the snap ring felt home."""
        steps = self.walk(wagon("taper_locknut", driven=True, nut_lock="plate"), "adjust")
        self.in_turn(
            steps,
            """
            snap_ring.off drive_flange.off lock_plate.off nut.set-dial-plate lock_plate.on lock_plate.again
            drive_flange.on snap_ring.on
            """,
        )
        self.says(steps["nut.set-dial-plate"], "plain holes", "175 N·m", "24 N·m", "30 to 40°", "up to 20°")
        self.says(steps["lock_plate.off"], "set too wide", "danger")
        self.says(steps["drive_flange.on"], "cross", "middle")
        self.says(steps["snap_ring.on"], "felt home")
        free = self.walk(wagon("taper_locknut", driven=True, drive="freewheel"), "repack")
        self.in_turn(
            free,
            """
            freewheel_cap.off snap_ring.off freewheel.off locknut.off nut.off freewheel.on snap_ring.on
            freewheel_cap.on
            """,
        )
        self.says(free["freewheel.off"], "cone collets jump")
        self.says(free["locknut.on"], "very tight")
        self.in_turn(free, "locknut.on locknut.again")
        self.assertIn("cap.off", self.walk(wagon("taper_locknut", kind="trailer"), "adjust"))

    def test_a_clamped_collar(self) -> None:
        """Cups that the hammer leaves short are pulled home by the nut, then it is set; the pinch screw is new."""
        steps = self.walk(wagon("taper_clamp"), "replace_bearing")
        self.in_turn(
            steps,
            """
            cap.off pinch_screw.off collar_nut.off outer_cup.off inner_cup.off inner_cup.on outer_cup.on
            collar_nut.on collar_nut.home collar_nut.set-dial collar_nut.degrease pinch_screw.on pinch_screw.again
            cap.on
            """,
        )
        self.says(steps["collar_nut.home"], "snug while turning", "back off", "until nothing more comes")
        self.says(steps["washer.on"], "find its key", "does not spin")
        self.says(steps["collar_nut.on"], "machined side to the washer")
        self.assertEqual(self.renewed["pinch_screw"], "one_time")


class Shafts(Walked):
    """Half-shafts."""

    def test_shims(self) -> None:
        """Pin and nut on the ground, drum, pipe, plate, shims; the cup home behind the shaft; bled with the drum on."""
        steps = self.walk(wagon("taper_shimmed", driven=True), "replace_bearing")
        self.in_turn(
            steps,
            """
            hub_pin.off lift.off hub_nut.off tapered_drum.off brake_pipe.off back_plate.off retainer.off
            half_shaft.off axle_seal.on half_shaft.on cup.on retainer.depth retainer.on back_plate.on brake_pipe.on
            tapered_drum.on brake_pipe.bleed hub_nut.on wheel.on lift.on hub_pin.on pedal
            """,
        )
        self.in_turn(steps, "back_plate.on retainer.play")
        self.says(steps["retainer.off"], "saved in their order")
        self.says(steps["cup.on"], "no play before any shim")
        self.says(steps["retainer.depth"], "three places", "both sides can be set from one")
        self.says(steps["tapered_drum.on"], "narrow side down")
        self.says(steps["hub_pin.on"], "hole upward")
        self.says(steps["brake_pipe.bleed"], "does not move")

    def test_both_sides_of_a_shimmed_axle(self) -> None:
        """The pack is measured with both shafts in, as they butt in the middle."""
        what = wagon("taper_shimmed", driven=True)
        made = plan(what, both_sides(what, [HubJob("A1L", "replace_bearing", ways={"sides": "both"})]))
        ids = [step.id for step in made.steps]
        for hub in ("A1L", "A1R"):
            self.assertLess(
                max(ids.index("A1L.half_shaft.on"), ids.index("A1R.half_shaft.on")), ids.index(f"{hub}.retainer.depth")
            )

    def test_a_retained_bearing_on_both_sides(self) -> None:
        """Plate on the shaft before bearing and ring; lifted once; one side is finished before the other is opened."""
        what = wagon("axle_retained", driven=True)
        made = plan(what, both_sides(what, [HubJob("A1L", "replace_bearing", ways={"sides": "both"})]))
        steps = {step.id: step for step in made.steps}
        self.assertEqual(sum(step.id == "lift.off" for step in made.steps), 1)
        self.in_turn(
            steps,
            """
            A1L.wheel_nuts.off A1R.wheel_nuts.off lift.off A1L.wheel.on A1R.wheel.off lift.on A1L.wheel_nuts.on
            A1R.wheel_nuts.on pedal level
            """,
        )
        for hub in ("A1L", "A1R"):
            own = """
            retainer_bolts.off half_shaft.off axle_seal.off retaining_ring.off sealed_bearing.off retainer_plate.off
            retainer_plate.on sealed_bearing.warm sealed_bearing.on retaining_ring.on half_shaft.on
            retainer_bolts.on drum.on shoes.on wheel.on
            """
            self.in_turn(steps, " ".join(f"{hub}.{id}" for id in own.split()))
        self.says(steps["A1L.retaining_ring.off"], "part through", "never touches the shaft", "not pressed off")
        self.says(steps["A1L.retaining_ring.on"], "smooth face to the seal", "fully home")
        self.says(steps["A1L.sealed_bearing.warm"], "120 °C", "150 °C")
        self.says(steps["A1L.drum.off"], "no prying at one side")
        self.says(steps["A1L.half_shaft.off"], "catch it")

    def test_loose_bolts_alone(self) -> None:
        """In–out slop that is the bolts: they are torqued behind the drum, and nothing of the axle comes out."""
        steps = self.walk(wagon("axle_retained", driven=True), "look_elsewhere", cause="fasteners")
        self.in_turn(steps, "drum.off retainer_bolts.tighten drum.on hear_again")
        self.assertNotIn("half_shaft.off", steps)


class Cycles(Walked):
    """Karts and bicycles, in their words."""

    def test_a_kart(self) -> None:
        """Inboard out, spacer, outboard out on the stud side; ledges looked at; sealed ones are not packed."""
        steps = self.walk(wagon("cartridge_pair"), "replace_bearing")
        self.in_turn(
            steps,
            """
            hub.off first_cartridge.off spacer.off second_cartridge.off hub.ledge second_cartridge.on spacer.on
            first_cartridge.on hub.on
            """,
        )
        self.says(steps["second_cartridge.on"], "stud side first", "outer ring", "greased and sealed")
        self.says(steps["hub.ledge"], "burrs", "coating", "new hub")
        self.assertFalse([id for id in steps if "pack" in id])

    def test_a_bicycle(self) -> None:
        """No jack, no pedal of a car; balls counted and new; the trace of play goes when it is clamped."""
        for design, choice in (("cup_cone", "repack"), ("cup_cone", "adjust"), ("cartridge_pair", "repack")):
            steps = self.walk(wagon(design, kind="cycle"), choice)
            text = " ".join(step.do for step in steps.values()).lower()
            for word in ("jack", "stands out", "wheel nuts", "caliper", "brake pedal", " lamp", "engine"):
                self.assertNotIn(word, text)
            self.in_turn(steps, "wheel_out.off wheel_out.on ride")
        steps = self.walk(wagon("cup_cone", kind="cycle"), "repack")
        self.in_turn(
            steps,
            """
            cone_locknut.off right_balls.off left_balls.on right_balls.on right_balls.set cone_locknut.on
            wheel_out.clamped
            """,
        )
        self.says(steps["right_balls.off"], "count the balls")
        self.says(steps["right_balls.set"], "goes when the clamp pulls")
        steps = self.walk(wagon("cartridge_pair", kind="cycle"), "repack")
        self.says(steps["first_cartridge.regrease"], "blade at its edge", "flush, dry, pack, seal back")
        self.assertNotIn("first_cartridge.off", steps)


class AllOfThem(Walked):
    """What every job keeps."""

    def test_off_the_road_and_its_repair(self) -> None:
        """It stands first, then it is mended: one plan, not a dead end. Without a repair it only stands."""
        steps = self.walk(wagon("taper_castle"), "off_road", repair="adjust")
        self.in_turn(steps, "stop carry lift.off nut.set-dial lift.on")
        self.says(steps["stop"], "not to be driven", "danger to others")
        self.assertEqual(list(self.walk(wagon("taper_castle"), "off_road")), ["stop", "carry"])

    def test_another_cause_that_is_ours(self) -> None:
        """A brake is freed and heard again; a tyre is named; nothing is taken apart for it."""
        brake = self.walk(wagon("hub_unit"), "look_elsewhere", cause="brake")
        self.in_turn(brake, "wheel.off caliper.free wheel.on lift.on wheel_nuts.on hear_again")
        self.assertNotIn("caliper.off", brake)
        self.assertEqual(list(self.walk(wagon("hub_unit"), "look_elsewhere", cause="tyre")), ["mend", "hear_again"])

    def test_several_hubs_are_lifted_once(self) -> None:
        """A hub in front and one behind: one lift, one drive."""
        made = plan(wagon("taper_castle"), [HubJob("A1L", "repack"), HubJob("A2R", "replace_unit")])
        ids = [step.id for step in made.steps]
        self.assertEqual((ids.count("lift.off"), ids.count("drive"), ids.count("layout")), (1, 1, 1))
        self.assertLess(ids.index("A2R.axle_nut_grip.off"), ids.index("lift.off"))

    def test_lists(self) -> None:
        """Sockets, designations and seal sizes are the vehicle's own; the torque book says what is used once."""
        hub = Hub(
            "A1L",
            "left",
            "taper_castle",
            designations={"outboard": "LM11949", "inboard": "LM67048"},
            seal_mm=(38.0, 50.3, 9.0),
            fastenings={"wheel_nut": Fastening("wheel_nut", socket_mm=19)},
        )
        what = Vehicle((Axle((hub, replace(hub, id="A1R", side="right"))),))
        found = lists(plan(what, [HubJob("A1L", "replace_bearing")]), what)
        sizes = {item.label: item.size for item in found.parts}
        self.assertEqual(
            (sizes["Outer bearing"], sizes["Inner cup"], sizes["Seal"]), ("LM11949", "LM67048", "38×50.3×9")
        )
        self.assertEqual({item.key: item.size for item in found.tools}["wheel_socket"], "19 mm")
        self.assertIn("grease", {item.key for item in found.uses})
        self.assertGreater(found.minutes, 60)
        unit = Hub("A1L", "left", "hub_unit", fastenings={"unit_bolts": Fastening("unit_bolts", one_time=False)})
        once = plan(Vehicle((Axle((unit,), driven=True),)), [HubJob("A1L", "replace_unit")])
        self.assertNotIn("unit_bolts", {one.part for one in once.renewed})
        self.assertIn("thread-locked", next(s.do for s in once.steps if s.id == "A1L.unit_bolts.on"))

    def test_it_will_not_move(self) -> None:
        """The rung that is tried is a step; what it ruins is bought; the last one takes the knuckle off."""
        what = wagon("hub_unit", driven=True, steered=True)
        steps = self.walk(what, "replace_unit", freed={"A1L.unit.off": "heat"})
        self.in_turn(steps, "unit_bolts.off unit.free-heat unit.off")
        self.says(steps["unit.free-heat"], "trained hands", "seals")
        steps = self.walk(what, "replace_unit", freed={"A1L.unit.off": "knuckle_off"})
        self.in_turn(
            steps,
            """
            lower_joint.off knuckle_whole.off unit.free-knuckle_off unit.off knuckle_whole.on geometry
            """,
        )
        steps = self.walk(what, "replace_unit", freed={"A1L.sensor.off": "break_out"})
        self.assertEqual(self.renewed["sensor"], "ruined")


class WaysFollowed(unittest.TestCase):
    """Which differences of practice a job follows at all."""

    def test_by_design_and_choice(self) -> None:
        """A nut that is set drives out no race; a unit that is bolted on has no nut to set; what is left, none."""
        self.assertEqual(followed_by("taper_castle", "adjust"), {"nut_setting", "slack"})
        self.assertIn("races_out", followed_by("taper_castle", "replace_bearing"))
        self.assertNotIn("nut_setting", followed_by("hub_unit", "replace_unit"))
        self.assertEqual(followed_by("taper_castle", "leave"), frozenset())
