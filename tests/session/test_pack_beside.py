"""What a teacher puts beside the steps of a pack: her voice, and the picture of a clip, read back by others."""

import base64
import io
import zipfile
from datetime import date

import av
import numpy as np
import soundfile
from msgspec.structs import replace

from firn.core.book.book import Book, BookPiece, piece_of_script
from firn.core.book.clips import Clip
from firn.core.book.edits import AddPiece, SetClip
from firn.core.ear.onsets import find_onsets
from firn.core.steps.shelf import shipped
from firn.errors import FirnError
from firn.files.small_film import LINES, MOST_S, small_film
from firn.session.giving import Order, wanted_of
from firn.session.pack.beside import MOST_VOICE_S, films_of, voice_of
from firn.session.pack.page import Pack, make_pack
from tests import films
from tests.browser import asked_for, axe
from tests.session.test_clips import TIMES, ClipCase
from tests.session.test_pack_page import PageCase

WORDS = "part A\n1 stomp  2 flap  3 step  4 touch\n\npart B\n1 step"


def with_clip(clip: Clip) -> tuple[Book, BookPiece]:
    """A book with a piece whose part A is from a clip."""
    piece = piece_of_script(WORDS, [f"i{n}" for n in range(9)])
    part = piece.parts[0].id
    here = SetClip(piece.id, part, replace(clip, piece=piece.id, part=part))
    return here.apply(AddPiece(piece).apply(Book())), piece


def frames(data: bytes) -> tuple[list[tuple[float, np.ndarray]], np.ndarray, int]:
    """The pictures of a film with their times, its sound, shape (n,), and its rate, as PyAV reads them."""
    with av.open(io.BytesIO(data)) as film:
        seen = [(float(f.time or 0), f.to_ndarray(format="rgb24")) for f in film.decode(video=0)]
    with av.open(io.BytesIO(data)) as film:
        if not film.streams.audio:
            return seen, np.zeros(0), 0
        heard = [f.to_ndarray().reshape(-1) for f in film.decode(audio=0)]
        return seen, np.concatenate(heard), film.streams.audio[0].rate


class SmallFilmTest(ClipCase):
    def test_its_pictures_and_strikes_lie_where_they_were(self) -> None:
        self.film()
        seen, sound, rate = frames(small_film(self.path, 0.8, 3.4))
        for at, picture in seen:
            # 30 pictures a second, of which every other one is kept.
            self.assertAlmostEqual(films.number_of(picture), (0.8 + at) * 30, delta=1.01)
        self.assertAlmostEqual(seen[-1][0], 2.6, delta=0.1)
        onsets = find_onsets(np.asarray(sound, np.float32), rate).times_s
        self.assertEqual(len(onsets), len(TIMES))
        self.assertLess(np.abs(onsets + 0.8 - np.array(TIMES)).max(), 0.03)

    def test_small_mirrored_silent_and_turned(self) -> None:
        path = self.folder / "wide.mp4"
        wide = np.full((720, 1280, 3), 20, np.uint8)
        wide[:, :200] = 230
        films.write(path, None, pictures=[wide] * 40)
        plain, sound, _ = frames(small_film(path, 0, 1))
        self.assertEqual((plain[0][1].shape, len(sound)), ((LINES, 640, 3), 0))
        mirrored, _, _ = frames(small_film(path, 0, 1, mirrored=True))
        self.assertGreater(plain[3][1][:, :60].mean(), 200)
        self.assertGreater(mirrored[3][1][:, -60:].mean(), 200)
        films.turn(path, 1)
        upright, _, _ = frames(small_film(path, 0, 1))
        self.assertEqual(upright[0][1].shape, (640, LINES, 3))

    def test_what_cannot_be(self) -> None:
        self.film()
        for begin, end, said in ((0, MOST_S + 1, "mark a shorter one"), (9, 10, "has ended before")):
            with self.assertRaisesRegex(FirnError, said):
                small_film(self.path, begin, end)


class BesideTest(ClipCase):
    def book(self, clip: Clip) -> Book:
        book, self.piece = with_clip(clip)
        return book

    def films(self, book: Book, *parts: str):
        return films_of(book, self.piece, parts, shipped(), self.folder / "class.firn")

    def test_a_clips_words_come_when_they_are_danced(self) -> None:
        """Counts 0 to 4 at 1 to 3 s: a count is half a second, and the film begins half a second before."""
        (film,) = self.films(self.book(replace(self.film(), said="Taught by --> Marl")))
        said = film.words.split("\n\n")
        self.assertEqual(said[0], "WEBVTT")
        self.assertEqual(
            [cue.split("\n") for cue in said[1:3]],
            [["00:00:00.500 --> 00:00:00.750", "stomp"], ["00:00:00.750 --> 00:00:01.500", "flap"]],
        )
        self.assertEqual(len(said), 5)
        self.assertAlmostEqual(frames(film.data)[0][-1][0], 3.0, delta=0.1)

    def test_where_counts_are_not_known_the_stretch_is_shown(self) -> None:
        (film,) = self.films(self.book(replace(self.film(), counts=(), seconds=())), "A")
        self.assertEqual(film.words, "WEBVTT\n\n00:00:00.000 --> 00:00:02.200\nA")
        self.assertAlmostEqual(frames(film.data)[0][-1][0], 2.2, delta=0.1)

    def test_a_name_stays_text(self) -> None:
        clip = replace(self.film(), counts=(), seconds=())
        book, piece = with_clip(clip)
        named = replace(piece, parts=(replace(piece.parts[0], name="A <i> --> & B"), *piece.parts[1:]))
        (film,) = films_of(book, named, (), shipped(), self.folder / "class.firn")
        self.assertEqual(film.words.split("\n")[-1], "A &lt;i&gt; --&gt; &amp; B")

    def test_a_clip_that_is_gone_or_none(self) -> None:
        book = self.book(self.film())
        with self.assertRaisesRegex(FirnError, "no picture"):
            self.films(book, "B")
        self.path.unlink()
        with self.assertRaisesRegex(FirnError, r"evening\.mp4 is gone"):
            self.films(book)

    def test_her_voice_is_as_loud_as_the_model(self) -> None:
        path = self.folder / "voice.m4a"
        films.write(path, films.strikes(TIMES, 4.0) * 0.02)
        sound, rate = soundfile.read(io.BytesIO(voice_of(path)))
        self.assertEqual(rate, 24_000)
        self.assertAlmostEqual(float(np.abs(sound).max()), 0.7, delta=0.15)
        onsets = find_onsets(np.asarray(sound, np.float32), rate).times_s
        self.assertLess(np.abs(onsets - np.array(TIMES)).max(), 0.06)

    def test_a_voice_that_is_long_or_silent(self) -> None:
        for seconds, said in ((MOST_VOICE_S + 1, "a pack takes 180 s"), (2.0, "is silent")):
            path = self.folder / "voice.wav"
            soundfile.write(path, np.zeros(round(8_000 * seconds)), 8_000)
            with self.assertRaisesRegex(FirnError, said):
                voice_of(path)


class PageBesideTest(PageCase, ClipCase):
    def pack(self, voice: bytes) -> Pack:
        """A pack of part A with a voice and the picture of its clip."""
        book, piece = with_clip(self.film())
        self.made = films_of(book, piece, (), shipped(), self.folder / "class.firn")
        order = Order(("A",), voice=voice, films=self.made, questions=False)
        return make_pack(wanted_of(piece, (), shipped(), order, None, date(2026, 11, 27)))

    def test_seen_and_heard_without_network(self) -> None:
        voice = self.folder / "voice.wav"
        soundfile.write(voice, films.strikes(TIMES, 4.0), films.RATE)
        pack = self.pack(voice_of(voice))
        path = self.folder / "pack.html"
        path.write_text(pack.html, "utf-8")
        self.browser.get_log("performance")
        self.browser.get(path.as_uri())
        self.assertTrue(self.until("document.querySelector('video').readyState >= 1"))
        long, wide = self.js("const v = document.querySelector('video'); return [v.duration, v.videoWidth]")
        self.assertAlmostEqual(long, 3.0, delta=0.15)
        self.assertEqual(wide, 320)
        self.js("const a = document.querySelector('header audio'); a.preload = 'auto'; a.load()")
        self.assertTrue(self.until("document.querySelector('header audio').readyState >= 1"))
        self.js("document.querySelector('video').textTracks[0].mode = 'showing'")
        self.assertTrue(self.until("(document.querySelector('video').textTracks[0].cues || []).length === 4"))
        asked = {a for a in asked_for(self.browser) if not a.startswith(("data:", "blob:"))}
        self.assertEqual(asked, {path.as_uri()})
        self.assertEqual(axe(self.browser), [])

    def test_in_a_folder_they_are_files(self) -> None:
        pack = self.pack(b"voice")
        with zipfile.ZipFile(io.BytesIO(pack.zipped())) as folder:
            self.assertEqual(folder.read("sounds/voice.mp3"), b"voice")
            self.assertEqual(folder.read("films/A.mp4"), self.made[0].data)
            page = folder.read("index.html").decode()
        self.assertIn('src="films/A.mp4"', page)
        self.assertNotIn(base64.b64encode(self.made[0].data[:300]).decode()[:200], page)
