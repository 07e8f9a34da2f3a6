"""A pack opened as a student does: on a phone's browser, without network; danced, keyed, asked, ticked."""

import json
import time
import unittest
from datetime import date
from typing import Any, ClassVar

import numpy as np
import soundfile

from firn.core.book.book import piece_of_script
from firn.core.book.students import Student
from firn.core.steps.shelf import shipped
from firn.session.giving import Order, wanted_of
from firn.session.pack.page import make_pack
from firn.session.pack.words import WORDS
from tests.browser import asked_for, axe, chromium
from tests.support import PATIENCE_S, FolderCase

HOSTILE = "</script><img src=x onerror=document.title=1>"
SCRIPT = f"""piece: Lamp {HOSTILE}
tempo: 120

part A
8 stomp  1 hop  2 step  &3 flap  & step
4 stomp  5 hop  6 step  &7 flap  & step

part B
1 shuffle  2 step  3 shuffle  4 step

combo
A x2, B
"""
NOTE = f"Ears first {HOSTILE}"


class PageCase(FolderCase):
    browser: ClassVar[Any]

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.browser = chromium()

    @classmethod
    def tearDownClass(cls) -> None:
        cls.browser.quit()
        super().tearDownClass()

    def open(
        self,
        *,
        language: str = "en",
        student: Student | None = None,
        parts: tuple[str, ...] = (),
        plain: bool = False,
    ) -> None:
        """Open a pack of the piece as its file, with every start of a sound kept in `window.started`; without its
        plain sounds, which take long to code, unless it is about them."""
        piece = piece_of_script(SCRIPT, [f"id{n}" for n in range(9)])
        order = Order(parts, "Marl", "for this class alone", NOTE, language, days=2)
        wanted = wanted_of(piece, (), shipped(), order, student, date(2026, 11, 27))
        pack = make_pack(wanted, plain=None if plain else ())
        path = self.folder / "pack.html"
        path.write_text(pack.html, "utf-8")
        # What is asked for counts from here on.
        self.browser.get_log("performance")
        self.browser.get(path.as_uri())
        self.page = path.as_uri()
        self.js(
            "window.started = []; const start = AudioBufferSourceNode.prototype.start;"
            "AudioBufferSourceNode.prototype.start = function (...words) {"
            "  window.started.push([words[0], this.buffer.length]); return start.apply(this, words); };"
        )

    def js(self, script: str, *words: Any) -> Any:
        return self.browser.execute_script(script, *words)

    def click(self, selector: str) -> None:
        self.js("document.querySelector(arguments[0]).click()", selector)

    def keys(self, *keys: str) -> None:
        for key in keys:
            self.js(
                "document.body.dispatchEvent(new KeyboardEvent('keydown', {key: arguments[0], bubbles: true}))", key
            )

    def text(self, selector: str) -> str:
        return str(self.js("return document.querySelector(arguments[0]).textContent", selector))

    def until(self, script: str) -> bool:
        """Whether something comes to hold on the page, in all patience."""
        end = time.monotonic() + PATIENCE_S
        while time.monotonic() < end:
            if self.js(f"return {script}"):
                return True
            time.sleep(0.05)
        return False

    def shown_strips(self) -> list[list[str]]:
        return list(
            self.js(
                "return [...document.querySelectorAll('[data-strip]')].filter((s) => !s.hidden)"
                ".map((s) => [s.dataset.strip, s.dataset.side])"
            )
        )


class DanceTest(PageCase):
    def test_strikes_fall_in_exact_time(self) -> None:
        self.open(parts=("A",))
        self.js("document.getElementById('counts').click(); document.getElementById('beats').click()")
        self.click("#play")
        self.assertTrue(self.until("window.started.length >= 24"))
        self.click("#play")
        starts = sorted(self.js("return window.started.map((one) => one[0])"))
        (item,) = json.loads(self.text("#pack"))["items"]
        once = [sound[0] * 0.5 for sound in item["sounds"] if sound[1]]
        twice = np.array([*once, *(at + 8 * 0.5 for at in once)])
        # Behind the words and beats of the count-in come the steps alone, to the sample.
        off = [
            float(np.abs(np.array(starts[n : n + 12]) - starts[n] - (twice[:12] - twice[0])).max())
            for n in range(len(starts) - 11)
        ]
        self.assertLess(min(off), 0.0005)

    def test_count_and_word_are_followed(self) -> None:
        self.open()
        self.assertEqual(self.text("#now-word"), "combo")
        self.click("#play")
        self.assertEqual(self.text("#play"), "Stop")
        self.assertTrue(self.until("document.querySelector('svg .sound.on')"))
        self.assertTrue(self.until("document.getElementById('now-word').textContent !== 'combo'"))
        self.keys(" ")
        self.assertEqual(self.text("#play"), "Dance")
        self.assertFalse(self.js("return Boolean(document.querySelector('svg .on'))"))

    def test_sides_tempo_part_and_loop_by_key_and_touch(self) -> None:
        self.open()
        self.assertEqual(self.shown_strips(), [["combo", "written"]])
        self.keys("o")
        self.assertEqual(self.shown_strips(), [["combo", "other"]])
        self.keys("m")
        self.assertEqual(self.shown_strips(), [["combo", "written"]])
        self.keys("+", "+", "-")
        self.assertEqual(self.js("return document.getElementById('tempo').value"), "124")
        self.js(
            "const box = document.getElementById('item'); box.value = box.options[2].value;"
            "box.dispatchEvent(new Event('change'))"
        )
        self.keys("o", "m")
        self.assertEqual(self.text("#now-word"), "B")
        self.assertEqual(self.js("return document.getElementById('from').options.length"), 5)
        self.keys("l")
        self.assertEqual(self.js("return document.getElementById('again').getAttribute('aria-pressed')"), "false")

    def test_a_student_has_their_own_side_and_tempo(self) -> None:
        self.open(student=Student("k1", "A. L.", "other side", False, 0, "es", 92.0))
        self.assertEqual(self.shown_strips(), [["combo", "other"]])
        self.assertEqual(self.js("return document.getElementById('tempo').value"), "92")
        self.assertNotIn("A. L.", self.browser.page_source)


class HerOwnTest(PageCase):
    def test_questions_are_answered_and_explained(self) -> None:
        self.open()
        pack = json.loads(self.text("#pack"))
        self.assertGreater(len(pack["questions"]), 5)
        right = pack["questions"][0]["right"]
        self.click('[data-q="0"] .hear')
        self.assertGreater(self.js("return window.started.length"), 1)
        self.js("document.querySelectorAll('[data-q=\"0\"] .answer')[arguments[0]].click()", right)
        self.js("document.querySelectorAll('[data-q=\"1\"] .answer')[0].click()")
        self.assertIn("Right.", self.text('[data-q="0"] .told'))
        self.assertIn(pack["questions"][0]["why"], self.text('[data-q="0"] .told'))
        self.assertIn("/2 right", self.text("#score"))

    def test_what_she_did_leaves_as_text_and_as_a_file(self) -> None:
        self.open()
        pack = json.loads(self.text("#pack"))
        self.js(
            "const box = document.querySelector('[data-tick=\"0\"]'); box.value = 'slip';"
            "box.dispatchEvent(new Event('change'))"
        )
        self.js("document.querySelectorAll('[data-q=\"2\"] .answer')[0].click()")
        self.click("#did-make")
        did = json.loads(self.js("return document.getElementById('did-text').value"))
        self.assertEqual((did["firn"], did["pack"], did["student"]), ("did", pack["id"], ""))
        (tick,) = did["ticks"]
        stage = pack["practice"][0]
        self.assertEqual((tick["how"], tick["part"], tick["day"]), ("slip", stage["part"], "2026-11-27"))
        self.assertEqual(len(tick["hash"]), 16)
        self.assertEqual([a["kind"] for a in did["answers"]], [pack["questions"][2]["kind"]])
        self.assertTrue(self.js("return document.getElementById('did-file').href").startswith("blob:"))

    def test_it_works_without_storage(self) -> None:
        self.open()
        self.js("Object.defineProperty(window, 'localStorage', {get() { throw new Error('none'); }})")
        self.click('[data-q="0"] .answer')
        self.click("#did-make")
        self.assertEqual(len(json.loads(self.js("return document.getElementById('did-text').value"))["answers"]), 1)
        self.keys("d")
        self.assertTrue(self.js("return document.documentElement.classList.contains('dark')"))


class OwnTest(PageCase):
    def test_her_own_recording_is_heard_in_turn_with_the_model(self) -> None:
        self.open(parts=("A",))
        path = self.folder / "mine.wav"
        soundfile.write(path, np.zeros(2_400), 8_000)
        self.browser.find_element("css selector", "#mine-file").send_keys(str(path))
        self.assertTrue(self.until("!document.getElementById('mine-sound').hidden"))
        self.assertTrue(self.js("return document.getElementById('mine-sound').src").startswith("blob:"))
        self.click("#mine-both")
        # Hers first, of three tenths of a second; then the model by itself.
        self.assertEqual(self.text("#play"), "Dance")
        self.assertTrue(self.until("document.getElementById('play').textContent === 'Stop'"))
        self.assertTrue(self.until("window.started.length > 3"))
        self.click("#play")
        asked = [a for a in asked_for(self.browser) if not a.startswith(("data:", "blob:"))]
        self.assertEqual(set(asked), {self.page}, "it stays on the phone")

    def test_without_scripts_there_are_strip_words_and_plain_sound(self) -> None:
        self.browser.execute_cdp_cmd("Emulation.setScriptExecutionDisabled", {"value": True})
        self.addCleanup(self.browser.execute_cdp_cmd, "Emulation.setScriptExecutionDisabled", {"value": False})
        piece = piece_of_script(SCRIPT, [f"id{n}" for n in range(9)])
        order = Order(("A",), questions=False)
        path = self.folder / "pack.html"
        pack = make_pack(wanted_of(piece, (), shipped(), order, None, date(2026, 11, 27)))
        path.write_text(pack.html, "utf-8")
        self.browser.get(path.as_uri())
        told = {
            one: [e.is_displayed() for e in self.browser.find_elements("css selector", one)]
            for one in ("noscript p", "[data-side=written] svg", "[data-said] pre", ".scripted", "#play")
        }
        self.assertTrue(all(told["noscript p"]) and told["noscript p"])
        self.assertTrue(any(told["[data-side=written] svg"]) and all(told["[data-said] pre"]))
        self.assertFalse(any(told[".scripted"]) or any(told["#play"]), "nothing that would do nothing")
        self.browser.find_element("css selector", "details:not(.scripted) summary").click()
        players = self.browser.find_elements("css selector", "details:not(.scripted) audio")
        self.assertEqual([p.is_displayed() for p in players], [True] * 3)
        names = [p.get_attribute("aria-label") for p in players]
        self.assertEqual(names, ["A, slowly, 84", "A, in between, 102", "A, up to tempo, 120"])


class SafeTest(PageCase):
    def test_nothing_is_loaded_and_no_text_becomes_markup(self) -> None:
        self.open()
        self.click("#play")
        self.assertTrue(self.until("window.started.length > 3"))
        self.click("#play")
        asked = [a for a in asked_for(self.browser) if not a.startswith(("data:", "blob:"))]
        self.assertEqual(set(asked), {self.page})
        self.assertEqual(self.js("return document.querySelectorAll('img').length"), 0)
        self.assertEqual(self.text("h1"), f"Lamp {HOSTILE}")
        self.assertIn(NOTE, self.js("return document.querySelector('header').textContent"))
        faults = [row["message"] for row in self.browser.get_log("browser") if row["level"] == "SEVERE"]
        self.assertEqual(faults, [])

    def test_nobody_is_left_out(self) -> None:
        for language in ("en", "es"):
            self.open(language=language, parts=("A",), plain=True)
            self.js("document.querySelectorAll('details').forEach((box) => { box.open = true; })")
            self.assertEqual(axe(self.browser), [], language)
            # Twice as large, dark: all of it still within the phone's width.
            self.keys("t", "d")
            self.assertEqual(axe(self.browser), [], f"{language}, large and dark")
            self.js("document.documentElement.style.fontSize = '200%'")
            wide = self.js("return [document.documentElement.scrollWidth, window.innerWidth]")
            self.assertLessEqual(wide[0], wide[1] + 1)


class WordsTest(unittest.TestCase):
    def test_each_language_says_everything(self) -> None:
        self.assertEqual(set(WORDS["en"]), set(WORDS["es"]))
        for said in WORDS.values():
            self.assertTrue(all(said.values()))


if __name__ == "__main__":
    unittest.main()
