"""A round of practice from begin to end, over the API: blind until it is answered, and apart from the real work."""

import json
import re
import uuid
from datetime import timedelta
from unittest import mock

from cases.models import Case
from django.test import Client
from django.utils import timezone
from garage.models import Vehicle
from hematite.training import Truth, draw, observe, topics, vehicle_of
from keeping.erasing import clear_benches, erase_person
from people.models import Role, User, Workshop
from recordings.hearing import hear_recording
from recordings.models import Recording
from workshop.tests.people import PASSWORD, WHEEL, WorkshopTestCase, vehicle_data

from training.models import Card, Exercise, Round
from training.watching import watch_exercise

NUMBER = re.compile(r"[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}")
MOMENT = re.compile(r"\d{4}-\d\d-\d\dT[\d:.]+(Z|\+00:00)")
STATE = re.compile(r'"state": "[0-9a-f]{16}"')


class AtTheBench(WorkshopTestCase):
    """One exercise at a time, of a chosen topic and matter."""

    def exercise(self, topic: str, matter: str, *, level: int = 1, seed: int = 5, user: User | None = None) -> Exercise:
        """Return an exercise with a chosen truth, in a round of its own."""
        vehicle, truth = draw(topic, matter, number=level, seed=seed)
        made = Round.objects.create(person=user or self.user, topic=topic)
        return Exercise.objects.create(
            round=made, number=1, topic=topic, matter=matter, level=level, vehicle=vehicle, truth=truth.to_json()
        )

    def begun(self, topic: str, matter: str, **more: object) -> Exercise:
        """Return one whose vehicle stands on the bench."""
        made = self.exercise(topic, matter, **more)
        self.assertEqual(self.post(made, "begin").status_code, 200)
        made.refresh_from_db()
        return made

    def post(self, exercise: Exercise, what: str, body: dict | None = None, *, client: Client | None = None):
        """Ask for something of an exercise."""
        return self.send(f"training/exercises/{exercise.id}/{what}", body, client=client)

    def right_answer(self, exercise: Exercise) -> dict:
        """Return what is right, as nobody but the test knows it."""
        truth = exercise.hidden
        key = {"corner": truth.at, "cause": topics()["cause"].matters.get(truth.matter)}.get(exercise.topic)
        return {"key": getattr(key, "answer", key), "sure": 90}


class Rounds(AtTheBench):
    """Beginning, going on, answering, coming back."""

    def test_a_round_has_five_and_is_gone_on_with(self) -> None:
        """Five questions at the first level, no matter twice; begun again it is the same; of others it is unknown."""
        number = str(uuid.uuid4())
        made = self.send("training/rounds", {"id": number}).json()
        self.assertEqual(len(made["exercises"]), 5)
        self.assertEqual({one["level"] for one in made["exercises"]}, {1})
        self.assertEqual(self.send("training/rounds", {}).json()["id"], number)
        self.assertEqual(self.client.get("/api/training").json()["open_round"], number)
        self.assertEqual(self.neighbour.get(f"/api/training/rounds/{number}").status_code, 404)
        self.assertEqual(self.send("training/rounds", {"id": number}, client=self.neighbour).status_code, 409)
        first = made["exercises"][0]["id"]
        for what in ("begin", "ear", "answer"):
            body = {"key": "A1L", "sure": 50}
            answer = self.send(f"training/exercises/{first}/{what}", body, client=self.neighbour)
            self.assertEqual(answer.status_code, 404)

    def test_a_round_of_one_topic(self) -> None:
        """Only that topic; an unknown one is refused in words."""
        made = self.send("training/rounds", {"topic": "play"}).json()
        self.assertEqual({one["topic"] for one in made["exercises"]}, {"play"})
        Round.objects.all().delete()
        self.assertEqual(self.send("training/rounds", {"topic": "x"}).status_code, 422)

    def test_play_by_the_simulated_gauge(self) -> None:
        """The gauge's strokes lie around what is hidden; the right answer is told; the matter comes back in days."""
        made = self.begun("play", "clear", level=2)
        truth = made.hidden
        strokes = self.client.get(f"/api/cases/{made.id}/simulated/strokes?hub={truth.at}").json()["strokes_mm"]
        self.assertAlmostEqual(sum(strokes) / len(strokes), truth.play_mm[truth.at], delta=0.01)
        self.assertNotEqual(len(set(strokes)), 1)
        body = {"id": str(uuid.uuid4()), "hub": truth.at, "kind": "end_play", "value": {"readings_mm": strokes[:3]}}
        self.assertEqual(self.send(f"cases/{made.id}/observations", body).status_code, 201)
        watch_exercise(str(made.id))
        told = self.post(made, "answer", {"key": "over", "sure": 90}).json()
        self.assertTrue(told["told"]["right"])
        self.assertEqual(told["told"]["tests"], 1)
        self.assertEqual(told["told"]["watched"]["key"], "over")
        card = Card.objects.get()
        made.refresh_from_db()
        self.assertGreater((card.due_at - made.answered_at).days, 1)
        again = self.post(made, "answer", {"key": "none", "sure": 97}).json()  # the first counts
        self.assertEqual(again["answer"], "over")

    def test_what_was_missed_comes_back_first(self) -> None:
        """A wrong answer is due a day later and leads the next round; a right one is not due."""
        for matter, key in (("clear", "none"), ("trace", "within")):
            self.post(self.begun("play", matter), "answer", {"key": key, "sure": 80})
        due = Card.objects.get(matter="clear").due_at
        self.assertLess(due, Card.objects.get(matter="trace").due_at)
        Card.objects.filter(matter="clear").update(due_at=due.replace(year=2020))
        made = self.send("training/rounds", {}).json()
        rows = Exercise.objects.filter(round=made["id"])
        self.assertIn(("play", "clear"), set(rows.values_list("topic", "matter")))
        desk = self.client.get("/api/training").json()
        self.assertEqual([one["label"] for one in desk["missed"]], ["Play over the window"])

    def test_open_and_read(self) -> None:
        """Each part is looked at on the bench; what was seen decides; a wrong answer says what it would have done."""
        made = self.begun("opened", "marked")
        hub = vehicle_of(made.vehicle).hub(made.hidden.at)
        case = self.client.get(f"/api/cases/{made.id}").json()
        hubs = [one for axle in case["vehicle_detail"]["axles"] for one in axle["hubs"]]
        for key in next(one for one in hubs if one["id"] == hub.id)["parts"]:
            body = {"id": str(uuid.uuid4()), "hub": hub.id, "part": key}
            self.assertEqual(self.send(f"cases/{case['id']}/simulated/part", body).status_code, 201)
        told = self.post(made, "answer", {"hub": hub.id, "key": "leave", "sure": 65}).json()["told"]
        self.assertFalse(told["right"])
        self.assertEqual((told["harmed"], told["key"]), ("danger", "replace_bearing"))
        self.assertTrue(told["spoke"])

    def test_the_ear_speaks_first(self) -> None:
        """Before the ear's guess no plot and no answer; after it what was heard; the ear is scored by itself."""
        made = self.begun("corner", "outer_race")
        for hub in ("A1L", "A1R"):
            body = {"id": str(uuid.uuid4()), "made": {"place": hub, "speed": WHEEL, "gain_group": "stand"}}
            self.assertEqual(self.send(f"cases/{made.id}/recordings/simulated", body).status_code, 201)
        for row in Recording.objects.filter(case=made.id):
            hear_recording(str(row.id))
        row = Recording.objects.filter(case=made.id).first()
        shown = self.client.get(f"/api/cases/{made.id}/recordings").json()
        self.assertEqual({(len(one["families"]), one["level_db"], one["state"]) for one in shown}, {(0, None, "done")})
        for what in ("plot", "export/json", "band?low_hz=1000&high_hz=3000"):
            self.assertEqual(self.client.get(f"/api/recordings/{row.id}/{what}").status_code, 409, what)
        self.assertEqual(self.client.get(f"/api/recordings/{row.id}/audio").status_code, 200)
        self.assertEqual(self.post(made, "answer", {"key": "A1L", "sure": 50}).status_code, 409)
        self.assertEqual(self.post(made, "ear", {"key": "A9L", "sure": 50}).status_code, 422)
        self.assertEqual(self.post(made, "ear", {"key": "A1L", "sure": 51}).status_code, 422)
        self.assertEqual(self.post(made, "ear", {"key": made.hidden.at, "sure": 50}).status_code, 200)
        self.assertTrue(self.client.get(f"/api/cases/{made.id}/recordings").json()[0]["families"])
        told = self.post(made, "answer", {"key": made.hidden.at, "sure": 90}).json()["told"]
        self.assertTrue(told["right"] and told["ear_right"])
        desk = self.client.get("/api/training").json()
        self.assertEqual((desk["ear"]["of"], desk["score"]["of"]), (1, 1))
        self.assertAlmostEqual(desk["score"]["brier"], 0.01)

    def test_given_recordings(self) -> None:
        """Bearing, tyre or brake: every wheel on stands and a road test lie there, to be listened to."""
        made = self.begun("cause", "tread")
        self.assertEqual(Recording.objects.filter(case=made.id).count(), 5)
        self.assertEqual(self.post(made, "begin").status_code, 200)
        self.assertEqual(Recording.objects.filter(case=made.id).count(), 5)

    def test_what_is_given_is_kept_whole(self) -> None:
        """Broken off between the recordings, beginning again keeps what is missing; none is the learner's test."""
        made = self.exercise("cause", "brake")
        with mock.patch("training.rounds.on_the_road", side_effect=OSError), self.assertLogs("workshop.refusals"):
            self.assertEqual(self.post(made, "begin").status_code, 500)
        self.assertEqual(Recording.objects.filter(case=made.id).count(), 4)
        self.assertEqual(self.post(made, "begin").status_code, 200)
        self.assertEqual(Recording.objects.filter(case=made.id).count(), 5)
        self.post(made, "ear", {"key": "brake", "sure": 50})
        told = self.post(made, "answer", {"key": "brake", "sure": 50}).json()["told"]
        self.assertEqual((told["tests"], told["minutes"]), (0, 0))

    def test_a_practice_vehicle_stays_as_it_is(self) -> None:
        """What it hides was drawn for it: it cannot be corrected, nor given another bearing."""
        made = self.begun("decide", "outer_race")
        vehicle = Case.objects.get(id=made.id).vehicle_id
        other = vehicle_data("Another", axles=3) | {"revision": 1}
        self.assertEqual(self.send(f"vehicles/{vehicle}", other, method="put").status_code, 409)
        fitted = {"hub": "A1L", "row": "one", "designation": "6206"}
        self.assertEqual(self.send(f"vehicles/{vehicle}/bearings", fitted).status_code, 409)

    def test_a_nut_is_set(self) -> None:
        """Turned on the setting bench, by the dial whatever the workshop's way; where it was left is marked."""
        self.send("policy", {"schools": {"nut_setting": "feel"}, "revision": 0}, method="put")
        made = self.begun("setting", "free", level=1)
        hub = made.hidden.at
        sums = self.client.get(f"/api/cases/{made.id}/sums?hub={hub}&step=").json()
        self.assertEqual([move["id"] for move in sums["moves"]][3], "back_off")
        nut = observe(made.hidden, vehicle_of(made.vehicle)).given["nut"]
        turned = self.send(f"cases/{made.id}/simulated/nut", nut | {"hub": hub, "locked": True}).json()
        self.assertEqual((turned["drags"], turned["next_deg"]), (False, made.hidden.nut["next_deg"]))
        self.assertEqual(self.post(made, "answer", {"key": "set", "sure": 80}).status_code, 422)
        seen = sum(turned["strokes_mm"][:3]) / 3
        values = nut | {"low_mm": 0.025, "high_mm": 0.125, "seen_mm": seen}
        self.assertEqual(self.send("sums/nut", {"values": values, "case": str(made.id), "hub": hub}).status_code, 200)
        body = {"id": str(uuid.uuid4()), "hub": hub, "sum": "nut", "values": values}
        self.assertEqual(self.send(f"cases/{made.id}/worked", body).status_code, 200)
        told = self.post(made, "answer", {"key": "set", "sure": 80}).json()["told"]
        self.assertTrue(told["right"], told)
        self.assertIn("0.025 to 0.125 mm", told["words"])
        loose = self.begun("setting", "winds_up", level=1, seed=6)
        body |= {"id": str(uuid.uuid4()), "hub": loose.hidden.at, "values": values | {"angle_deg": 200}}
        self.assertEqual(self.send(f"cases/{loose.id}/worked", body).status_code, 200)
        self.assertEqual(self.post(loose, "answer", {"key": "set", "sure": 80}).json()["told"]["harmed"], "loose")
        neighbour = self.send("sums/nut", {"values": values, "case": str(made.id), "hub": hub}, client=self.neighbour)
        self.assertEqual(neighbour.status_code, 404)

    def test_steps_put_in_order(self) -> None:
        """The job's steps come shuffled; what came too early is told step by step; half an order is none."""
        made = self.begun("order", "repack", level=2)
        asked = self.client.get(f"/api/training/exercises/{made.id}").json()
        self.assertIn("Repacking", asked["ask"])
        best = observe(made.hidden, vehicle_of(made.vehicle)).given["order"]
        shown = [one["key"] for one in asked["options"]]
        self.assertEqual((sorted(shown), shown == best, asked["told"]), (sorted(best), False, None))
        decided = {"hub": made.hidden.at, "choice": "repack", "reason": "to see its steps"}
        self.assertEqual(self.send(f"cases/{made.id}/verdicts", decided).json()["code"], "withheld")
        body = {"sure": 80, "order": [best[-1], *best[:-1]]}
        for order in (best[1:], [*best[1:], "A9L.cap.off"], []):
            self.assertEqual(self.post(made, "answer", body | {"order": order}).status_code, 422)
        told = self.post(made, "answer", body).json()["told"]
        self.assertEqual((told["right"], told["harmed"] != ""), (False, True))
        words = {one["key"]: one["words"] for one in asked["options"]}
        self.assertEqual(told["followed"], [words[step] for step in best])
        self.assertEqual([row["after"] for row in told["placed"]], [words[best[-2]], *[""] * (len(best) - 1)])
        again = self.begun("order", "repack", level=2)
        self.assertTrue(self.post(again, "answer", body | {"order": best}).json()["told"]["right"])

    def test_hands_answer_and_are_logged(self) -> None:
        """A test asked of the bench is an entry of the log, the same when asked again; what it cannot do it refuses."""
        made = self.begun("decide", "brake")
        at = made.hidden.at
        ask = {"hub": at, "kind": "spin"}
        first = self.send(f"cases/{made.id}/simulated/hand", ask | {"id": str(uuid.uuid4())})
        self.assertEqual(first.status_code, 201)
        self.assertIn(first.json()["value"]["answer"], ("drags", "scrapes"))
        for kind in ("opened", "complaint", "fault_lines"):
            refused = self.send(f"cases/{made.id}/simulated/hand", {"hub": at, "kind": kind, "id": str(uuid.uuid4())})
            self.assertEqual(refused.status_code, 422, kind)
        told = self.post(made, "answer", {"hub": at, "key": "look_elsewhere", "sure": 80}).json()["told"]
        self.assertTrue(told["right"])
        spoke = [(row["words"], row["speaks"].partition(": ")[2]) for row in told["spoke"]]
        self.assertIn((first.json()["words"], "brake drags or scrapes"), spoke)
        real = self.send(
            f"cases/{self.case.id}/simulated/hand", {"hub": "A1L", "kind": "spin", "id": str(uuid.uuid4())}
        )
        self.assertEqual(real.status_code, 422)


class Apart(AtTheBench):
    """What is practised is no work of the workshop."""

    def test_no_list_shows_it(self) -> None:
        """Yard, fleet, rounds due, log and archive are as before; nobody else reaches the case; its learner does."""
        lists = ("yard", "fleet", "fleet/past", "due", "keeping")
        before = [self.client.get(f"/api/{name}").json() for name in lists]
        made = self.begun("decide", "outer_race")
        self.assertEqual([self.client.get(f"/api/{name}").json() for name in lists], before)
        self.assertEqual(self.client.get(f"/api/cases/{made.id}").status_code, 200)
        colleague = User.objects.create_user("second", workshop=self.user.workshop, role=Role.OWNER)
        second = Client()
        second.force_login(colleague)
        for client in (second, self.neighbour):
            self.assertEqual(client.get(f"/api/cases/{made.id}").status_code, 404)
        case = Case.objects.get(id=made.id)
        self.assertEqual(case.workshop.practice_of, self.user)
        self.assertNotEqual(case.vehicle.workshop_id, self.user.workshop_id)
        self.user.refresh_from_db()
        self.assertEqual(self.user.workshop.name, "ours")

    def test_a_reader_practises_and_touches_nothing_real(self) -> None:
        """On their own bench a reader works and decides; on the workshop's cases they still may not."""
        reader = User.objects.create_user("looks", workshop=self.user.workshop, role=Role.READER)
        client = Client()
        client.force_login(reader)
        made = self.exercise("decide", "outer_race", user=reader)
        self.assertEqual(self.post(made, "begin", client=client).status_code, 200)
        found = {"id": str(uuid.uuid4()), "hub": "A1L", "kind": "spin", "value": {"answer": "free"}}
        self.assertEqual(self.send(f"cases/{made.id}/observations", found, client=client).status_code, 201)
        found["id"] = str(uuid.uuid4())
        self.assertEqual(self.send(f"cases/{self.case.id}/observations", found, client=client).status_code, 403)

    def test_nobody_is_stored_at_their_bench(self) -> None:
        """Somebody at the bench for a request cannot be saved there for good."""
        self.begun("decide", "outer_race")
        at_bench = User.objects.get(pk=self.user.pk)
        at_bench.at_bench, at_bench.workshop = True, Workshop.objects.get(practice_of=self.user)
        with self.assertRaises(RuntimeError):
            at_bench.save()


class Hidden(AtTheBench):
    """Nothing of what is hidden leaves before the answer."""

    def everything(self, made: Exercise) -> str:
        """Return all that the API says of an exercise and its case, without numbers of rows and moments."""
        case = f"cases/{made.id}"
        paths = ["training", f"training/exercises/{made.id}", f"training/rounds/{made.round_id}", case]
        paths += [f"{case}/{what}" for what in ("assessment", "assessment?now=true", "recordings", "state", "verdicts")]
        paths += [f"{case}/deciding?hub=A1L", f"{case}/sums?hub=A1L", f"{case}/job"]
        paths += [f"vehicles/{Case.objects.get(id=made.id).vehicle_id}"]
        bodies = [self.client.get(f"/api/{path}") for path in paths]
        self.assertEqual({one.status_code for one in bodies} - {200}, set(), [one.status_code for one in bodies])
        text = "\n".join(json.dumps(one.json()) for one in bodies)
        return STATE.sub("", MOMENT.sub("", NUMBER.sub("", text)))

    def test_two_truths_look_alike(self) -> None:
        """Vehicles that hide different things at different hubs answer the same, word for word, before any test.

        What a driver says is made alike: it is evidence, and may tell.
        """
        for topic, one, other in (("decide", "outer_race", "too_tight"), ("corner", "cage", "inner_race")):
            texts = []
            for matter, at in ((one, "A2L"), (other, "A2R")):
                made = self.exercise(topic, "outer_race", seed=3)
                truth = Truth.from_json(
                    made.truth | {"topic": topic, "matter": matter, "at": at, "causes": {at: matter}}
                )
                shown = {"complaint": {"text": "It growls.", "words": ["growl"]}, "noise": [at, matter]}
                Exercise.objects.filter(pk=made.pk).update(truth=truth.to_json() | shown, vehicle="car")
                made.refresh_from_db()
                self.post(made, "begin")
                texts.append(self.everything(made))
                Round.objects.filter(pk=made.round_id).delete()
                Vehicle.objects.filter(workshop__practice_of=self.user).update(label="gone")
            self.assertTrue(texts[0] == texts[1], topic)

    def test_no_figure_of_the_truth_is_sent(self) -> None:
        """Seed, play, loudness: none of their figures is in anything that is sent, nor what was hidden, in words."""
        for topic in (key for key, row in topics().items() if row.matters):
            matter = list(topics()[topic].matters)[-1]
            made = self.begun(topic, matter, level=3, seed=48_271_993)
            text = self.everything(made)
            figures = [made.hidden.seed, *made.hidden.trouble.values(), *made.hidden.play_mm.values()]
            for figure in (one for one in figures if len(str(one)) > 4):
                self.assertTrue(str(figure) not in text, (topic, figure))
            self.assertTrue('"truth"' not in text)


class Forgotten(AtTheBench):
    """What practice leaves behind goes by itself, and with the person."""

    def test_benches_are_cleared(self) -> None:
        """The vehicle of a question answered long ago goes; its answer stays, and one of today stays whole."""
        old, new = self.begun("cause", "brake"), self.begun("play", "clear")
        for made, key in ((old, "brake"), (new, "over")):
            if made.topic == "cause":
                self.post(made, "ear", {"key": key, "sure": 50})
            self.assertEqual(self.post(made, "answer", {"key": key, "sure": 80}).status_code, 200)
        Exercise.objects.filter(pk=old.pk).update(answered_at=timezone.now() - timedelta(days=90))
        self.assertEqual(clear_benches(), 1)
        self.assertEqual([str(case.id) for case in Case.objects.exclude(practice={})], [str(new.id)])
        self.assertEqual(self.client.get(f"/api/training/exercises/{old.id}").json()["told"]["right"], True)
        self.assertEqual(Vehicle.objects.filter(pk=self.vehicle.pk).count(), 1)

    def test_who_is_erased_leaves_no_answers(self) -> None:
        """Rounds, cards and the bench go with the name; nobody else's do."""
        gone = User.objects.create_user("goes", password=PASSWORD, workshop=self.user.workshop, role=Role.APPRENTICE)
        client = Client()
        client.force_login(gone)
        theirs, ours = self.exercise("cause", "tyre", user=gone), self.begun("play", "clear")
        self.assertEqual(self.post(theirs, "begin", client=client).status_code, 200)
        self.assertEqual(self.post(theirs, "ear", {"key": "tyre", "sure": 65}, client=client).status_code, 200)
        self.assertEqual(self.post(theirs, "answer", {"key": "tyre", "sure": 65}, client=client).status_code, 200)
        User.objects.filter(pk=gone.pk).update(is_active=False)
        erase_person(self.user, gone.pk)
        self.assertEqual(list(Exercise.objects.values_list("pk", flat=True)), [ours.pk])
        self.assertEqual(list(Workshop.objects.filter(practice_of=gone)), [])
        self.assertEqual(Card.objects.count(), 0)
        self.assertFalse(Recording.objects.exists())


class Taught(AtTheBench):
    """Who teaches sees a group, and sets a round."""

    def test_a_group_and_a_round_set(self) -> None:
        """People of the workshop with what they answered; a round is set once, and is the one that is gone on with."""
        apprentice = User.objects.create_user(
            "learns", password=PASSWORD, workshop=self.user.workshop, role=Role.APPRENTICE, first_name="Finch"
        )
        client = Client()
        client.force_login(apprentice)
        for matter, key in (("clear", "over"), ("trace", "none"), ("gross", "none")):
            made = self.exercise("play", matter, user=apprentice)
            self.post(made, "begin", client=client)
            self.assertEqual(self.post(made, "answer", {"key": key, "sure": 80}, client=client).status_code, 200)
        found = self.client.get("/api/training/group").json()
        self.assertEqual([one["name"] for one in found], ["Finch", "ours"])
        self.assertEqual((found[0]["right"], found[0]["of"], found[0]["days"]), (1, 3, 1))
        self.assertEqual((found[0]["weakest"], found[0]["waiting"]), ("How much play", False))
        body = {"id": str(uuid.uuid4()), "person": apprentice.pk, "topic": "opened"}
        for _ in range(2):  # sent twice it is one
            self.assertEqual(self.send("training/group/rounds", body).status_code, 201)
        self.assertEqual(self.send("training/group/rounds", body | {"id": str(uuid.uuid4())}).status_code, 409)
        desk = client.get("/api/training").json()
        self.assertEqual((desk["open_round"], desk["set_by"]), (body["id"], "ours"))
        self.assertEqual(self.send("training/rounds", {}, client=client).json()["id"], body["id"])
        self.assertEqual(client.get("/api/training/group").status_code, 403)
        self.assertEqual([one["name"] for one in self.neighbour.get("/api/training/group").json()], ["theirs"])
