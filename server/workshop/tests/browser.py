"""The real interface in headless Chromium, with a microphone fed from WAV files."""

import os
import tempfile
import time
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path

from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from playwright.sync_api import BrowserContext, Page, expect, sync_playwright
from playwright.sync_api import TimeoutError as PlaywrightTimeout

from workshop.tests.people import PASSWORD

CHROMIUM = "/usr/bin/chromium"
AXE = Path(__file__).resolve().parents[3] / "web" / "node_modules" / "axe-core" / "axe.min.js"
DESKTOP, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844}


class BrowserTestCase(StaticLiveServerTestCase):
    """A browser beside the live server; every error on a page's console fails the test."""

    host = "localhost"  # browsers take secure cookies from localhost, and give it the microphone

    @classmethod
    def setUpClass(cls) -> None:
        """Start Chromium once, its microphone reading `cls.microphone`."""
        os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = (
            "1"  # Playwright's loop runs in this thread; the ORM is not async here
        )
        super().setUpClass()
        expect.set_options(timeout=45_000)  # a busy machine hears a recording or opens a page in more than five seconds
        cls.folder = tempfile.TemporaryDirectory()
        cls.microphone = Path(cls.folder.name) / "microphone.wav"
        cls.playwright = sync_playwright().start()
        cls.browser = cls.playwright.chromium.launch(
            executable_path=CHROMIUM,
            args=[
                "--no-sandbox",
                "--disable-gpu",
                "--use-fake-ui-for-media-stream",
                "--use-fake-device-for-media-stream",
                f"--use-file-for-fake-audio-capture={cls.microphone}",
            ],
        )

    @classmethod
    def tearDownClass(cls) -> None:
        """Stop Chromium."""
        cls.browser.close()
        cls.playwright.stop()
        cls.folder.cleanup()
        super().tearDownClass()

    def open(self, *, size: dict[str, int] | None = None, **options: object) -> Page:
        """Return a page of a new context. Without the app's service worker, past which no route reaches."""
        usual = {"base_url": self.live_server_url, "permissions": ["microphone"], "service_workers": "block"}
        self.context: BrowserContext = self.browser.new_context(viewport=size or DESKTOP, **(usual | options))
        self.context.set_default_timeout(30_000)
        self.addCleanup(self.context.close)
        self.faults: list[str] = []
        page = self.context.new_page()
        page.on("pageerror", lambda error: self.faults.append(str(error)))
        page.on("console", lambda m: self.faults.append(m.text) if m.type == "error" else None)
        return page

    def sign_in(self, page: Page, name: str = "ours") -> None:
        """Sign in as a person would."""
        page.goto("/")
        page.get_by_label("Name").fill(name)
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("heading", name="open case")).to_be_visible()

    def all_sent(self, page: Page) -> None:
        """Wait until nothing waits on the device any more: answers are shown long before the server has them."""
        expect(page.get_by_role("status").filter(has_text="waiting")).to_have_count(0)

    def until(self, holds: Callable[[], bool], what: str, *, seconds: float = 30) -> None:
        """Wait until something holds in the server; what a page shows may be of a moment before."""
        late = time.monotonic() + seconds
        while not holds():
            if time.monotonic() > late:
                self.fail(f"Not within {seconds:g} s: {what}")
            time.sleep(0.2)

    def try_now(self, page: Page) -> None:
        """Ask for what waits to be sent; the device tries by itself as well, and may have been quicker."""
        with suppress(PlaywrightTimeout):
            page.get_by_role("button", name="Try now").first.click(no_wait_after=True, timeout=2000)

    def settle(self, page: Page) -> None:
        """Wait until the network is quiet; a player may hold its own sound open for ever, which is quiet enough."""
        with suppress(PlaywrightTimeout):
            page.wait_for_load_state("networkidle", timeout=8_000)

    def assert_accessible(self, page: Page, where: str) -> None:
        """Fail on any serious or critical violation that axe-core finds. Run through the debugger, past the CSP."""
        self.settle(page)
        page.evaluate(AXE.read_text(encoding="utf-8"))
        # axe would copy style sheets of shadow roots into a page of its own, which our policy forbids; it needs none.
        options = "{resultTypes: ['violations'], preload: {assets: ['media']}}"
        found = page.evaluate(f"axe.run({options}).then(r => r.violations)")
        bad = [f"{v['id']}: {v['nodes'][0]['html'][:160]}" for v in found if v["impact"] in {"serious", "critical"}]
        self.assertEqual(bad, [], where)
