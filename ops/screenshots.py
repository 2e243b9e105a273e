"""`make screenshots`: the pictures in docs/, taken from the demo data of a running `make start`."""

import os
import subprocess
import sys

from ops.build import PYTHON
from ops.say import ROOT

SCRIPT = r"""
import os, sys
from playwright.sync_api import sync_playwright
base, folder, only = os.environ["BASE"], os.environ["FOLDER"], sys.argv[1:]
DESKTOP, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844}
VIEWS = [
    ("sign-in", None, None, DESKTOP, "day"), ("yard", "/", None, DESKTOP, "day"),
    ("vehicle", "vehicle", None, DESKTOP, "day"), ("walkround", "Bookmobile", "", DESKTOP, "day"),
    ("walkround-under-the-car", "Bookmobile", "", DESKTOP, "under"), ("walkround-phone", "Bookmobile", "", PHONE, "day"),
    ("hear", "Bookmobile", "/hear?hub=A1L", DESKTOP, "day"), ("hear-phone", "Bookmobile", "/hear?hub=A1L", PHONE, "under"),
    ("lift", "Bookmobile", "/lift", DESKTOP, "day"), ("rock", "Bookmobile", "/rock?hub=A1L", DESKTOP, "day"),
    ("spin", "Bookmobile", "/spin?hub=A1L", DESKTOP, "day"), ("open", "Reading-room", "/open?hub=A2R", DESKTOP, "under"),
    ("decide", "Bookmobile", "/decide?hub=A1L", DESKTOP, "day"), ("do", "Heritage", "/do", DESKTOP, "day"),
    ("prove", "Heritage", "/prove", DESKTOP, "day"), ("decide-phone", "Outreach", "/decide?hub=A1R", PHONE, "day"),
]
with sync_playwright() as play:
    browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=["--no-sandbox", "--disable-gpu"])
    page = browser.new_page(viewport=DESKTOP)
    page.goto(base + "/sign-in"); page.get_by_role("button", name="Enter the demo").wait_for()
    if not only or "sign-in" in only: page.screenshot(path=f"{folder}/sign-in.png")
    page.get_by_role("button", name="Enter the demo").click()
    page.get_by_role("heading", name="cases").first.wait_for()
    links = {a.inner_text().split("\n")[0]: a.get_attribute("href") for a in page.locator("main a[href^='/cases/']").all()}
    vehicle = page.locator("main a[href^='/vehicles/']:not([href$='new'])", has_text="Bookmobile").get_attribute("href")
    page.on("console", lambda m: print("console", m.text) if m.type in ("error", "warning") else None)
    page.on("pageerror", lambda e: print("page error", e))
    for name, where, stage, size, light in VIEWS:
        if where is None or (only and name not in only): continue
        path = where if where == "/" else vehicle if where == "vehicle" else next(h for t, h in links.items() if where in t) + stage
        page.set_viewport_size(size)
        page.goto(base + path); page.wait_for_load_state("networkidle"); page.locator("h1, h2").first.wait_for()
        if page.locator("html").get_attribute("data-light") != light: page.keyboard.press("i"); page.wait_for_timeout(300)
        page.wait_for_timeout(500)
        page.screenshot(path=f"{folder}/{name}.png")
        wide = page.evaluate("document.documentElement.scrollWidth")
        if wide > size["width"]: print(f"{name}: wider than the screen ({wide} px)")
    browser.close()
"""


def main() -> int:
    """Take them all, or only those named on the command line."""
    base = f"http://localhost:{os.environ.get('PORT', '8000')}"
    folder = os.environ.get("FOLDER", str(ROOT / "docs" / "screenshots"))
    environment = os.environ | {"BASE": base, "FOLDER": folder}
    return subprocess.run([PYTHON, "-c", SCRIPT, *sys.argv[1:]], env=environment, check=False).returncode


if __name__ == "__main__":
    raise SystemExit(main())
