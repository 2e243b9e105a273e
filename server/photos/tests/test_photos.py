"""Photographs: place and time are taken out, they are made smaller, sent twice they are one, and they stay at home."""

import io
import uuid

from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image
from workshop.tests.people import WorkshopTestCase

GPS_IFD, ORIENTATION, MAKE, DATE_TAKEN = 0x8825, 0x0112, 0x010F, 0x9003


def camera_jpeg(size: tuple[int, int] = (3000, 2000)) -> bytes:
    """Return a picture as a camera writes it: lying on its side, with where, when and by what it was taken."""
    picture = Image.new("RGB", size, "white")
    picture.paste("black", (0, 0, size[0] // 2, size[1] // 2))
    exif = Image.Exif()
    exif[ORIENTATION], exif[MAKE], exif[DATE_TAKEN] = 6, "a camera", "2026:01:02 03:04:05"
    exif.get_ifd(GPS_IFD).update({1: "N", 2: (12.0, 34.0, 56.0), 3: "E", 4: (65.0, 43.0, 21.0)})
    buffer = io.BytesIO()
    picture.save(buffer, "JPEG", exif=exif)
    return buffer.getvalue()


class Photographs(WorkshopTestCase):
    """Sent, kept, shown, taken back."""

    def post(self, data: bytes, *, photo_id: str = "", hub: str = "A1L", part: str = "unit", client=None):
        """Send a picture."""
        form = {"id": photo_id or str(uuid.uuid4()), "hub": hub, "part": part}
        form["picture"] = SimpleUploadedFile("a.jpg", data)
        return (client or self.client).post(f"/api/cases/{self.case.id}/photos", form)

    def picture(self, photo_id: str, query: str = "") -> Image.Image:
        """Fetch a kept picture."""
        answer = self.client.get(f"/api/photos/{photo_id}{query}")
        self.assertEqual(answer["Content-Type"], "image/jpeg")
        return Image.open(io.BytesIO(b"".join(answer) if answer.streaming else answer.content))

    def test_location_comes_out(self) -> None:
        """The picture sent says where it was taken; the picture kept carries nothing, stands upright and is smaller."""
        sent = camera_jpeg()
        self.assertTrue(Image.open(io.BytesIO(sent)).getexif().get_ifd(GPS_IFD))
        answer = self.post(sent)
        self.assertEqual(answer.status_code, 201, answer.content)
        kept = self.picture(answer.json()["id"])
        self.assertEqual((dict(kept.getexif()), kept.info.get("exif")), ({}, None))
        self.assertEqual(kept.size, (1333, 2000))
        # The dark corner of the lying picture, top left, stands top right once it is turned.
        self.assertLess(kept.getpixel((1100, 200))[0], 50)
        self.assertGreater(kept.getpixel((200, 200))[0], 200)
        self.assertEqual(max(self.picture(answer.json()["id"], "?small=true").size), 480)

    def test_sent_twice_is_one(self) -> None:
        """The same number and picture once more; the same number with another picture is refused."""
        number, data = str(uuid.uuid4()), camera_jpeg((400, 300))
        self.assertEqual([self.post(data, photo_id=number).status_code for _ in range(2)], [201, 201])
        self.assertEqual(len(self.client.get(f"/api/cases/{self.case.id}/photos").json()), 1)
        self.assertEqual(self.post(camera_jpeg((300, 300)), photo_id=number).status_code, 409)

    def test_refusals(self) -> None:
        """No picture, an empty file, a part that the hub has not, a hub that the vehicle has not."""
        for data in (b"", b"not a picture", b"\xff\xd8\xff\xe0 cut short"):
            self.assertEqual(self.post(data).json()["code"], "no_picture", data)
        good = camera_jpeg((40, 30))
        self.assertEqual(self.post(good, part="circlip").status_code, 422)
        self.assertEqual(self.post(good, hub="A9L").json()["code"], "no_such_hub")

    def test_taken_back_and_brought_back(self) -> None:
        """The list leaves it out; the row stays."""
        number = self.post(camera_jpeg((40, 30))).json()["id"]
        listed = lambda: [row["id"] for row in self.client.get(f"/api/cases/{self.case.id}/photos").json()]  # noqa: E731
        self.send(f"photos/{number}/withdraw", {"withdrawn": True})
        self.assertEqual(listed(), [])
        self.send(f"photos/{number}/withdraw", {"withdrawn": False})
        self.assertEqual(listed(), [number])

    def test_a_neighbour_sees_nothing(self) -> None:
        """Neither the picture nor the case."""
        number = self.post(camera_jpeg((40, 30))).json()["id"]
        self.assertEqual(self.neighbour.get(f"/api/photos/{number}").status_code, 404)
        self.assertEqual(self.post(camera_jpeg((40, 30)), client=self.neighbour).status_code, 404)
