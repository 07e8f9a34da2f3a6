"""A film of the model, decoded again: what is seen and what is heard fall together, at their exact times."""

import unittest
from fractions import Fraction
from itertools import pairwise
from pathlib import Path

import av
import numpy as np
from msgspec.structs import replace

from firn.core.drills.ladder import Ladder, climbed, rungs
from firn.core.ear.onsets import find_onsets
from firn.core.piece.build import piece_from
from firn.errors import FirnError
from firn.files.audio import read_take
from firn.session.converting import How, section_of, stretch_of
from firn.session.stretch import across
from firn.ui.film import FilmPainter, moments, write_film
from tests.support import FolderCase
from tests.ui.window import application

PIECE = piece_from(
    "piece: Lamp\ntempo: 120\n\npart A\n1 stamp  2 step  & step  3 stamp  4 hold  5 shuffle  6 step  7 stamp  8 stamp"
)
SILENT = How(counts=False, beats=False)


def pictures(path: Path) -> list[tuple[float, np.ndarray]]:
    with av.open(str(path)) as film:
        return [(float(f.pts * f.time_base), f.to_ndarray(format="gray")) for f in film.decode(video=0)]


class FilmTest(FolderCase):
    def setUp(self) -> None:
        super().setUp()
        application()
        self.stretch = stretch_of(PIECE, PIECE.parts[0])
        self.section = section_of(self.stretch, PIECE, SILENT)
        self.path = self.folder / "a.webm"

    def test_a_picture_for_each_thing_that_moves_at_its_time(self) -> None:
        write_film(self.path, "Lamp, A", [(self.stretch, self.section)])
        with av.open(str(self.path)) as film:
            shown, heard = film.streams.video[0], film.streams.audio[0]
            self.assertEqual(
                (shown.height, shown.codec_context.name, heard.codec_context.name), (1080, "vp9", "opus")
            )
        seen = pictures(self.path)
        times = [at for at, _ in seen]
        for one in moments(self.stretch, self.section):
            self.assertLess(min(abs(at - float(one.at_s)) for at in times), 0.002)
        # The first strike is seen and heard at once, as is the last: within a frame.
        sound, rate, _ = read_take(self.path)
        heard_s = find_onsets(sound, rate).times_s
        for index in (0, len(self.stretch.sounds) - 1):
            due = float(self.section.seconds_at(self.stretch.sounds[index].position))
            self.assertLess(np.abs(heard_s - due).min(), 1 / 30)
            self.assertLess(min(abs(at - due) for at in times), 1 / 30)

    def test_a_ladder_goes_on_where_the_rung_before_ends(self) -> None:
        """Seen and heard together on the last strike of the last rung, that one on the other side."""
        short = piece_from("piece: Lamp\ntempo: 120\n\npart A\n1 stamp  2 step  & step  3 stamp  4 stamp")
        one = stretch_of(short, short.parts[0])
        steps = rungs(Ladder(200, 240, 40, 1, "both sides", 0))
        other = across(one)
        climb = climbed(steps, section_of(one, short, SILENT), section_of(other, short, SILENT), rest=0)
        strips = (other if rung.swapped else one for rung in steps)
        write_film(self.path, "Lamp, A", list(zip(strips, climb.sections, strict=True)))
        seen = pictures(self.path)
        times = np.array([at for at, _ in seen])
        sound, rate, _ = read_take(self.path)
        heard_s = find_onsets(sound, rate).times_s
        for start, section in zip(climb.starts_s, climb.sections, strict=False):
            due = float(start + section.seconds_at(section.sounds[-1].position))
            self.assertLess(np.abs(heard_s - due).min(), 1 / 30)
            self.assertLess(np.abs(times - due).min(), 1 / 30)
        # Which rung it is stands above, at the right of the title.
        (_, one), (_, two) = (seen[int(np.argmin(np.abs(times - float(s) - 0.1)))] for s in climb.starts_s[:2])
        self.assertGreater(int(np.abs(one[30:110].astype(int) - two[30:110]).max()), 60)

    def test_what_is_seen_changes_with_the_word(self) -> None:
        write_film(self.path, "Lamp, A", [(self.stretch, self.section)])
        seen = pictures(self.path)
        kept = moments(self.stretch, self.section)
        changes = [
            (at, float(np.abs(after.astype(int) - before.astype(int)).mean()))
            for (_, before), (at, after) in pairwise(seen)
        ]
        moved = {round(float(one.at_s), 2) for one in kept}
        still = [difference for at, difference in changes if round(at, 2) not in moved]
        told = [difference for at, difference in changes if round(at, 2) in moved]
        self.assertLess(max(still, default=0.0), min(told))

    def test_moments_say_count_word_and_what_comes(self) -> None:
        found = moments(self.stretch, self.section)
        self.assertEqual(
            [m.count for m in found if m.at_s < self.section.seconds_at(Fraction(0))], ["5", "6", "7", "8"]
        )
        at_two = next(m for m in found if m.played == 1)
        self.assertEqual((at_two.count, at_two.word, at_two.following), ("2", "step", "step"))
        fast = section_of(self.stretch, PIECE, How(tempo=290, counts=False))
        gaps = [
            b.at_s - a.at_s
            for a, b in zip(moments(self.stretch, fast)[1:], moments(self.stretch, fast)[2:], strict=False)
        ]
        self.assertGreaterEqual(min(gaps), Fraction(1, 30))

    def test_a_long_word_still_fits(self) -> None:
        painter = FilmPainter("Lamp", self.stretch)
        one = moments(self.stretch, self.section)[-1]
        image = painter.paint(replace(one, word="shuffle ball change and a very long name of a step"))
        edge = [image.pixelColor(x, y) for x in range(1_140, 1_200, 5) for y in range(140, 360, 5)]
        self.assertEqual(len({colour.name() for colour in edge}), 1)

    def test_nothing_is_left_where_it_cannot_be_written(self) -> None:
        with self.assertRaises(FirnError):
            write_film(self.folder / "none" / "a.webm", "Lamp", [(self.stretch, self.section)])
        self.assertEqual(list(self.folder.iterdir()), [])


if __name__ == "__main__":
    unittest.main()
