"""What words mean, asked for by its key, kept in the piece, and offered to new ones."""

from PySide6.QtCore import Qt

from firn.session.settings import load_settings
from tests.ui.window import CTRL, SHIFT, WindowCase


class WordsTest(WindowCase):
    def ask(self, others: str = "", *, always: bool = False, handed: str = "right", **words: str) -> None:
        def fill(dialog) -> None:
            dialog.handed.setCurrentText(f"the {handed} hand")
            for word, meaning in words.items():
                dialog.choices[word].setCurrentText(meaning)
            dialog.others.setText(others)
            dialog.always.setChecked(always)
            self.dialog = dialog

        self.answers.fill = fill
        self.key(Qt.Key.Key_W, CTRL | SHIFT)

    def kinds(self) -> list[str]:
        return [s.kind for s in self.desk.stretch.sounds]

    def test_in_this_piece_and_taken_back(self) -> None:
        self.type("1 stamp  2 step")
        self.ask(stamp="stomp", stomp="stamp", others="latch is ball change")
        self.assertEqual(self.kinds(), ["stomp", "step"])
        self.assertEqual([text for _, text in self.desk.stretch.words], ["stamp", "step"])
        self.key(Qt.Key.Key_Z, CTRL)
        self.assertEqual(self.kinds(), ["flat", "step"])

    def test_how_it_counts_leaves_them(self) -> None:
        self.ask(stamp="stomp")
        self.answers.fill = lambda dialog: dialog.choices["feel"].setCurrentText("swing")
        self.key(Qt.Key.Key_F4)
        self.assertEqual((self.desk.settings.feel, self.desk.settings.words), ("swing", (("stamp", "stomp"),)))

    def test_a_step_that_is_not_there(self) -> None:
        self.ask("latch is ball chnge")
        self.assertIn("No step is called “ball chnge”. Nearest: ball change", self.answers.wrong)
        self.assertEqual(self.desk.settings.words, ())

    def test_new_pieces_have_them_too(self) -> None:
        self.ask(stamp="stomp", always=True, handed="left")
        self.answers.named = "Second"
        self.key(Qt.Key.Key_N, CTRL)
        self.assertEqual((self.desk.settings.name, self.desk.settings.words), ("Second", (("stamp", "stomp"),)))
        self.assertEqual(self.desk.settings.handed, "left")
        self.assertEqual(load_settings(self.folder / "settings.json").words, (("stamp", "stomp"),))

    def test_the_hand_that_leads(self) -> None:
        self.type("1 step\nleading hand: 1 pat")
        self.ask(handed="left")
        self.assertEqual([s.hand for s in self.desk.stretch.sounds if s.hand], ["left"])
        self.answers.fill = lambda dialog: None
        self.key(Qt.Key.Key_F4)
        self.assertEqual(self.desk.settings.handed, "left")
