"""A rhythm sung before it has steps, typed on Write: seen, danced, and then given steps below."""

from PySide6.QtCore import Qt

from tests.ui.window import CTRL, WindowCase

SUNG = "scat: 1 da & da 2 dum"


class SungTest(WindowCase):
    def test_it_is_seen_and_heard_before_it_has_steps(self) -> None:
        self.dictate(SUNG)
        stretch = self.desk.stretch
        self.assertEqual([text for _, text in stretch.words], ["da", "da", "dum"])
        self.assertEqual((stretch.counts, stretch.beside.syllables), (2, ()))
        self.key(Qt.Key.Key_Space, CTRL)
        self.settle()
        self.assertTrue(self.running.player.playing)

    def test_steps_below_it_are_laid_against_it(self) -> None:
        self.dictate(f"{SUNG}\n1 step 2 stamp")
        self.assertEqual([text for _, text in self.desk.stretch.beside.syllables], ["da", "da", "dum"])
        self.assertIn("& after 1 is sung and not danced", " ".join(note.text for note in self.desk.notes))
        self.editor.selectAll()
        self.dictate(f"{SUNG}\n1 step & step 2 stamp")
        self.assertNotIn("is sung and not danced", " ".join(note.text for note in self.desk.notes))
