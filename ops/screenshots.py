"""`make screenshots`: the pictures in docs/, taken from the demo data of a running `make start`."""

import os
import sys
from contextlib import suppress

from playwright.sync_api import Page, TimeoutError, sync_playwright

from ops.say import ROOT, say

DESKTOP, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844}
# name, vehicle of the case ("" for a page of its own), address, size, light
VIEWS = [
    ("yard", "", "/", DESKTOP, "day"),
    ("fleet", "", "/fleet", DESKTOP, "day"),
    ("vehicle", "", "vehicle", DESKTOP, "day"),
    ("walkround", "Bookmobile", "", DESKTOP, "day"),
    ("hear", "Bookmobile", "/hear?hub=A1L", DESKTOP, "day"),
    ("bench", "Bookmobile", "/bench", DESKTOP, "day"),
    ("rock", "Bookmobile", "/rock?hub=A1L", DESKTOP, "day"),
    ("open", "Warm cap", "/open?hub=A2R&part=outer_bearing", DESKTOP, "under"),
    ("decide", "Growl from 60", "/decide?hub=A1L", DESKTOP, "day"),
    ("verdict", "Leans and knocks", "verdict", DESKTOP, "day"),
    ("policy", "", "/policy", DESKTOP, "under"),
    ("why", "Bookmobile", "/why?hub=A1L", DESKTOP, "day"),
    ("logbook", "", "logbook", DESKTOP, "day"),
    ("trend", "", "trend", DESKTOP, "day"),
    ("do", "Growl from 60", "/do?step=A1L.unit_bolts.on", DESKTOP, "day"),
    ("road-phone", "", "road", PHONE, "under"),
    ("practice", "", "/practice", DESKTOP, "day"),
    ("setting-phone", "Heritage", "/sums?hub=A1R", PHONE, "under"),
    ("prove", "Heritage", "/prove", DESKTOP, "day"),
]
VERDICT = "verdict"  # the latest verdict of the hub that a case is most about
OF_VEHICLE = {"vehicle": "", "logbook": "/logbook", "trend": "/trend", "road": "/road"}
OF_TRAILER = ("logbook", "trend", "road")


def _sign_in(page: Page, base: str) -> None:
    page.goto(f"{base}/sign-in")
    enter = page.get_by_role("button", name="Enter the demo")
    enter.wait_for()
    enter.click()
    page.get_by_role("heading", name="cases").first.wait_for()


def _address(page: Page, case_of: str, path: str) -> str:
    page.locator("main a[href^='/vehicles/']").nth(1).wait_for()
    if case_of:
        link = page.locator("main a[href^='/cases/']", has_text=case_of).first
    elif path in OF_VEHICLE:
        link = page.locator(
            "main section[aria-label='Vehicles'] a", has_text="Reading-room" if path in OF_TRAILER else "Bookmobile"
        )
    else:
        return path
    return str(link.get_attribute("href")) + (OF_VEHICLE.get(path, "") if not case_of else path)


def _take(page: Page, base: str, folder: str, view: tuple[str, str, str, dict[str, int], str]) -> None:
    name, case_of, path, size, light = view
    page.set_viewport_size(size)  # type: ignore[arg-type]
    page.goto(base)
    page.goto(base + _address(page, case_of, "/decide" if path == VERDICT else path))
    if path == VERDICT:
        page.get_by_role("link", name="Read that verdict").click()
        page.wait_for_url("**/verdicts/*")
    page.locator("h1, h2").first.wait_for()
    with suppress(TimeoutError):  # a player may hold its own sound open for ever
        page.wait_for_load_state("networkidle", timeout=6_000)
    if page.locator("html").get_attribute("data-light") != light:
        page.keyboard.press("i")
    page.wait_for_timeout(600)
    page.screenshot(path=f"{folder}/{name}.png")
    width = page.evaluate("document.documentElement.scrollWidth")
    if width > size["width"]:
        say(f"{name}: wider than the screen ({width} px)")


def main(only: list[str]) -> None:
    """Take them all, or only those named."""
    base = f"http://localhost:{os.environ.get('PORT') or 8000}"
    folder = os.environ.get("FOLDER", str(ROOT / "docs" / "screenshots"))
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=["--no-sandbox", "--disable-gpu"])
        page = browser.new_page(viewport=DESKTOP)  # type: ignore[arg-type]
        page.on("console", lambda message: say(message.text) if message.type in {"error", "warning"} else None)
        page.on("pageerror", lambda error: say(f"page error: {error}"))
        _sign_in(page, base)
        for view in VIEWS:
            if not only or view[0] in only:
                _take(page, base, folder, view)
        browser.close()


if __name__ == "__main__":
    main(sys.argv[1:])
