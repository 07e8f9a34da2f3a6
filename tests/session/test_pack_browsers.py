"""A pack in WebKitGTK and in Firefox ESR, as on other phones: opened, danced, turned, keyed."""

import time
from collections.abc import Callable
from datetime import date
from typing import Any

from firn.core.book.book import piece_of_script
from firn.core.steps.shelf import shipped
from firn.session.giving import Order, wanted_of
from firn.session.pack.page import make_pack
from tests.browser import Firefox, webkit
from tests.servers import screen, sound_server
from tests.session.test_pack_page import SCRIPT
from tests.support import PATIENCE_S, FolderCase

TELL = """
const now = document.getElementById('now-word').textContent;
const shown = [...document.querySelectorAll('[data-strip]')].filter((s) => !s.hidden).map((s) => s.dataset.side);
return [document.getElementById('play').textContent, now, document.querySelectorAll('svg .on').length, shown,
        document.getElementById('tempo').value];
"""


class OthersTest(FolderCase):
    def dance(self, browser: Any, press: Callable[[str], None]) -> None:
        """Open a pack and dance it: the word now is followed, sides and tempo change by key, and it stops."""
        piece = piece_of_script(SCRIPT, [f"id{n}" for n in range(9)])
        order = Order((), "Marl", "for this class alone", "Ears first", days=2)
        path = self.folder / "pack.html"
        wanted = wanted_of(piece, (), shipped(), order, None, date(2026, 11, 27))
        path.write_text(make_pack(wanted, plain=()).html, "utf-8")
        browser.get(path.as_uri())
        self.assertEqual(browser.execute_script(TELL), ["Dance", "combo", 0, ["written"], "120"])
        press("#play")
        seen: set[str] = set()
        self.assertEqual(browser.execute_script(TELL)[0], "Stop")
        end = time.monotonic() + PATIENCE_S
        while time.monotonic() < end and len(seen) < 3:
            play, word, lit, _, _ = browser.execute_script(TELL)
            seen |= {word} if lit and word else set()
            if play != "Stop":
                # On a busy machine it may be over before three were seen.
                press("#play")
        self.assertGreaterEqual(len(seen), 3, "three words of the dance are lit as they sound")
        for key in ("o", "+", " "):
            browser.execute_script(
                "document.body.dispatchEvent(new KeyboardEvent('keydown', {key: arguments[0], bubbles: true}))", key
            )
        play, _, lit, shown, tempo = browser.execute_script(TELL)
        self.assertEqual((play, lit, shown, int(tempo) > 120), ("Dance", 0, ["other"], True))
        made = browser.execute_script(
            "document.getElementById('did-make').click();return JSON.parse(document.getElementById('did-text').value)"
        )
        self.assertEqual((made["firn"], made["version"]), ("did", 1))

    def test_webkit(self) -> None:
        browser = webkit(screen(self))
        self.addCleanup(browser.quit)
        self.dance(browser, lambda selector: browser.find_element("css selector", selector).click())

    def test_firefox(self) -> None:
        """Firefox keeps no time without a sound device: it is given one."""
        _, env = sound_server(self, self.folder)
        browser = Firefox(self.folder, env)
        self.addCleanup(browser.quit)
        self.dance(browser, browser.press)
