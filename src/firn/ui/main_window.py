"""The window: pages along a thread at the top, the transport below, and everything by key."""

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import numpy as np
from PySide6.QtCore import QSettings, Qt, QTimer
from PySide6.QtGui import QCloseEvent, QFont, QKeyEvent, QKeySequence, QShortcut
from PySide6.QtWidgets import (
    QApplication,
    QFrame,
    QHBoxLayout,
    QLabel,
    QMainWindow,
    QMenu,
    QProgressBar,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from firn.core.book.book import BookPart, Take, new_piece, piece_of_script
from firn.core.book.edits import (
    AddPart,
    AddPiece,
    AddTake,
    DeletePart,
    DeletePiece,
    DeleteTake,
    Edit,
    RenamePart,
    RenameTake,
    SetHead,
)
from firn.core.sound.model import Mixing, Rendered, render
from firn.core.sound.voices import RATE, FloatArray
from firn.core.task import Task
from firn.errors import FirnError
from firn.files.audio import take_info
from firn.files.steps_file import read_steps, write_steps
from firn.session.desk import COMBO, next_name
from firn.session.session import Session, new_id
from firn.session.settings import Settings, save_settings
from firn.session.takes import bring_in, simulate
from firn.session.transport import danced, spoken_line
from firn.ui.actions import fill_menus, key_rows, make_actions
from firn.ui.bridge import SessionBridge
from firn.ui.desk import Desk
from firn.ui.dialogs.counting import CountingDialog
from firn.ui.dialogs.help import CAUTIONS, HelpDialog
from firn.ui.dialogs.prompts import Prompts
from firn.ui.dialogs.stretch import StretchDialog
from firn.ui.jobs import JobRunner
from firn.ui.pages.listen.page import Heard, ListenPage
from firn.ui.pages.write.page import WritePage
from firn.ui.player import Player
from firn.ui.stand_back import StandBack
from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import rule
from firn.ui.widgets.spoken_line import SpokenLine
from firn.ui.widgets.tabs import ThreadTabs

PAGES = ("Write", "Listen")
SIMULATED = {
    "late": "One sound late",
    "missing": "One sound missing",
    "hold": "The hold dropped",
    "mixed": "Late, missing and slower",
    "clean": "Clean",
}


class MainWindow(QMainWindow):
    """Joins desk, pages, player and files; what it knows of the trade is in the desk."""

    def __init__(
        self,
        bridge: SessionBridge,
        theme: Theme,
        player: Player,
        settings: Settings,
        settings_path: Path,
        *,
        silent: str = "",
        prompts: Prompts | None = None,
    ) -> None:
        super().__init__()
        self._bridge, self._theme, self._player = bridge, theme, player
        self.settings, self._settings_path = settings, settings_path
        self._silent = silent
        self.prompts = prompts or Prompts()
        self.jobs = JobRunner(self)
        self.desk = Desk(bridge, self)
        self.write_page = WritePage(self.desk, theme)
        self.listen_page = ListenPage(self.desk, theme, self.jobs, lambda: self.settings.on_ms)
        self.stand_back = StandBack(self.desk, theme)
        self.page_tabs = ThreadTabs(theme, "Pages", threaded=True)
        self.part_tabs = ThreadTabs(theme, "Parts", threaded=False)
        self.line = SpokenLine(theme)
        self.dance_button = QPushButton("Dance")
        self.stand_button = QPushButton("Stand back")
        self.title_button = QPushButton()
        self.counts_button = QPushButton()
        self.kept = QLabel("kept")
        self.banner = QLabel()
        self.banner_button = QPushButton("Save a copy…")
        self.progress = QProgressBar()
        self.progress_label = QLabel()
        self.cancel_button = QPushButton("Stop")
        self._help: HelpDialog | None = None
        self.actions_by_id = make_actions(self, self._handlers())
        self.menus = fill_menus(self.menuBar(), self.actions_by_id)
        self._recent = QMenu("Recent workbooks", self)
        self.menus["Piece"].insertMenu(self.actions_by_id["copy"], self._recent)
        self._lay_out()
        self._connect()
        self._restyle()
        self.setWindowTitle("Firn")
        self.setMinimumSize(1000, 620)
        self.show_desk()
        self._note_recent()
        if silent:
            self.say(silent)

    # Building

    def _handlers(self) -> dict[str, Callable[[], object]]:
        desk, listen = self.desk, self.listen_page
        transport: dict[str, Callable[[], object]] = {
            "whole": lambda: desk.choose(None if desk.transport.chosen else self._strip_choice()),
            "slower": lambda: self._tempo(-1),
            "faster": lambda: self._tempo(1),
            "count_in": lambda: desk.dance_as(desk.transport.next_count_in()),
            "side": lambda: desk.dance_as(desk.transport.next_side()),
            "layers": lambda: desk.dance_as(desk.transport.next_layers()),
            "then": lambda: desk.dance_as(desk.transport.next_then()),
        }
        takes: dict[str, Callable[[], object]] = {
            "bring_in": self.ask_recording,
            "simulate": self.ask_simulation,
            "hear_mine": listen.hear_mine,
            "hear_both": listen.hear_both,
            "hear_question": listen.question.hear.click,
            "skip_question": listen.question.leave,
            "next_pass": listen.next_pass,
            "other_start": listen.other_start,
            "rename_take": self.rename_take,
            "delete_take": self.delete_take,
        }
        return {
            **transport,
            **takes,
            "new": self.new_workbook,
            "open": self.open_workbook,
            "copy": self.save_copy,
            "new_piece": self.new_piece,
            "next_piece": self.next_piece,
            "read_steps": self.read_steps,
            "write_steps": self.write_steps,
            "delete_piece": self.delete_piece,
            "quit": self.close,
            "undo": self.undo,
            "redo": self.redo,
            "counting": self.ask_counting,
            "new_part": self.new_part,
            "rename_part": self.rename_part,
            "delete_part": self.delete_part,
            "next_part": lambda: self._walk_parts(1),
            "previous_part": lambda: self._walk_parts(-1),
            "dance": self.toggle,
            "dance_bare": self.toggle,
            "set_tempo": self.ask_tempo,
            "stand_back": self.toggle_stand_back,
            "write_page": lambda: self.show_page(0),
            "listen_page": lambda: self.show_page(1),
            "next_area": self.next_area,
            "lamp": lambda: self._look(dark=not self._theme.dark),
            "larger": lambda: self._look(percent=self._theme.percent + 10),
            "smaller": lambda: self._look(percent=self._theme.percent - 10),
            "help": self.show_help,
        }

    def _lay_out(self) -> None:
        # PySide6 drops a corner widget that nothing else holds.
        corner = self._corner = QWidget(self)
        row = QHBoxLayout(corner)
        row.setContentsMargins(0, 0, 24, 0)
        row.setSpacing(28)
        row.addWidget(self.page_tabs)
        row.addWidget(self.kept)
        self.menuBar().setCornerWidget(corner, Qt.Corner.TopRightCorner)
        head = QHBoxLayout()
        head.setContentsMargins(24, 6, 16, 6)
        head.setSpacing(10)
        for button in (self.title_button, self.counts_button):
            button.setFlat(True)
            head.addWidget(button)
        head.addStretch(1)
        head.addWidget(self.part_tabs)
        banner = QHBoxLayout()
        banner.setContentsMargins(24, 4, 24, 4)
        banner.addWidget(self.banner, 1)
        banner.addWidget(self.banner_button)
        self._banner_row = _framed(banner)
        working = QHBoxLayout()
        working.setContentsMargins(24, 2, 24, 2)
        working.setSpacing(14)
        working.addWidget(self.progress_label)
        working.addWidget(self.progress, 1)
        working.addWidget(self.cancel_button)
        self._working_row = _framed(working)
        self.pages = QStackedWidget()
        self.pages.addWidget(self.write_page)
        self.pages.addWidget(self.listen_page)
        bar = QHBoxLayout()
        bar.setContentsMargins(24, 6, 24, 6)
        bar.setSpacing(20)
        bar.addWidget(self.dance_button)
        bar.addWidget(self.line, 1)
        bar.addWidget(self.stand_button)
        self._bar = _framed(bar)
        desk = QWidget()
        box = QVBoxLayout(desk)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addLayout(head)
        box.addWidget(rule())
        box.addWidget(self._banner_row)
        box.addWidget(self._working_row)
        box.addWidget(self.pages, 1)
        box.addWidget(self._bar)
        self._whole = QStackedWidget()
        self._whole.addWidget(desk)
        self._whole.addWidget(self.stand_back)
        self.setCentralWidget(self._whole)
        self._banner_row.hide()
        self._working_row.hide()
        self.dance_button.setProperty("next", "true")
        QWidget.setTabOrder(self.page_tabs, self.part_tabs)

    def _connect(self) -> None:
        desk, player, listen = self.desk, self._player, self.listen_page
        desk.shown.connect(self.show_desk)
        desk.turned.connect(self._turned)
        desk.danced.connect(self._danced)
        self.page_tabs.picked.connect(self.show_page)
        self.part_tabs.picked.connect(self._pick_part)
        self.line.asked.connect(self._asked)
        self.dance_button.clicked.connect(self.toggle)
        self.stand_button.clicked.connect(self.toggle_stand_back)
        self.title_button.clicked.connect(self._show_pieces)
        self.counts_button.clicked.connect(self.ask_counting)
        self.banner_button.clicked.connect(self.save_copy)
        self.cancel_button.clicked.connect(self.jobs.cancel_all)
        self.jobs.busy.connect(self._busy)
        self.jobs.idle.connect(self._working_row.hide)
        self.jobs.failed.connect(self.say)
        player.moved.connect(self._moved)
        player.started.connect(self._started)
        player.ended.connect(self._ended)
        self.stand_back.left.connect(self.toggle_stand_back)
        self.stand_back.toggled.connect(self.toggle)
        self.stand_back.tempo.connect(self._tempo)
        listen.brought.connect(self.bring_in)
        listen.browse.connect(self.ask_recording)
        listen.simulate.connect(self.ask_simulation)
        listen.play_take.connect(lambda sound, _: self._play_samples(sound))
        listen.play_both.connect(self._play_both)
        self._theme.changed.connect(self._restyle)
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        app.focusChanged.connect(self._focus_changed)
        for number in range(1, 10):
            shortcut = QShortcut(QKeySequence(f"Alt+{number}"), self)
            shortcut.activated.connect(lambda n=number: self.write_page.notes.take_mend(n))

    def _restyle(self) -> None:
        theme = self._theme
        t = theme.tokens
        self.title_button.setFont(theme.font(27, QFont.Weight.DemiBold))
        self.counts_button.setFont(theme.font(15))
        plain = "QPushButton { border: none; background: transparent; padding: 0 4px; text-align: left; %s }"
        focus = f"QPushButton:focus {{ background: {t.chosen_wash}; border-radius: 6px; }}"
        self.title_button.setStyleSheet(plain % f"font-size: {theme.px(27)}px; font-weight: 600;" + focus)
        quiet = f"font-size: {theme.px(15)}px; font-weight: 400; color: {t.quiet};"
        self.counts_button.setStyleSheet(plain % quiet + focus)
        self._bar.setStyleSheet(f"#framed {{ background: {t.band}; }}")
        self._banner_row.setStyleSheet(f"#framed {{ background: {t.chosen_wash}; }}")
        self.kept.setStyleSheet(f"color: {t.quiet}")
        self.kept.setFont(theme.font(14))
        self.banner.setFont(theme.font(16, QFont.Weight.Medium))
        self.progress_label.setFont(theme.font(14))

    # Showing

    def show_desk(self) -> None:
        """Show the names, the part tabs and the transport."""
        desk, book = self.desk, self._bridge.book
        piece = desk.piece
        settings = desk.settings
        many = "  ▾" if len(book.pieces) > 1 else ""
        self.title_button.setText(f"{settings.name}{many}" if piece else "No piece")
        lone = {"triplet": "the last triplet", "sixteenth": "the last sixteenth"}[settings.counting.lone_a]
        self.counts_button.setText(f"{settings.meter}, {settings.feel}, a lone “a” on {lone}" if piece else "")
        self.title_button.setAccessibleName(f"Piece: {settings.name}")
        self.counts_button.setAccessibleName(f"How it counts: {self.counts_button.text()}")
        ids = self._part_ids()
        names = [p.name for p in piece.parts] + ["combo", "+"] if piece else ["+"]
        chosen = ids.index(desk.part_id) if desk.part_id in ids else -1
        if (self.part_tabs.names, self.part_tabs.chosen) != (tuple(names), chosen):
            self.part_tabs.show_names(names, chosen)
        if self.page_tabs.names != PAGES:
            self.page_tabs.show_names(PAGES, self.pages.currentIndex())
        unsaved = self._bridge.session.unsaved
        self._banner_row.setVisible(bool(unsaved))
        self.banner.setText(unsaved)
        self.kept.setText("not kept" if unsaved else "kept")
        history = self._bridge.session.history
        for name, label in (("undo", history.undo_label), ("redo", history.redo_label)):
            action = self.actions_by_id[name]
            action.setEnabled(bool(label))
            action.setText(f"{name.capitalize()} {label[:1].lower() + label[1:]}".strip())
        self._show_line()

    def _part_ids(self) -> list[str]:
        piece = self.desk.piece
        return [*[p.id for p in piece.parts], COMBO] if piece else []

    def _show_line(self) -> None:
        stretch = self.desk.stretch
        if stretch is not None:
            self.line.show_values(spoken_line(self.desk.title, stretch, self.desk.transport))
        can = stretch is not None and bool(stretch.sounds)
        self.dance_button.setEnabled(can or self._player.playing)

    def _turned(self) -> None:
        self._player.stop()
        self.show_desk()

    def say(self, sentence: str) -> None:
        """Say something in the banner for a while; what is not saved stays there."""
        if self._bridge.session.unsaved:
            return
        self.banner.setText(sentence)
        self.banner_button.hide()
        self._banner_row.show()
        QTimer.singleShot(8_000, self._hush)

    def _hush(self) -> None:
        self.banner_button.show()
        self._banner_row.setVisible(bool(self._bridge.session.unsaved))
        self.banner.setText(self._bridge.session.unsaved)

    def _busy(self, label: str, share: float) -> None:
        self.progress_label.setText(label)
        self.progress.setRange(0, 1000)
        self.progress.setValue(round(share * 1000))
        self.progress.setTextVisible(False)
        self._working_row.show()

    def show_page(self, index: int) -> None:
        """Turn to a page."""
        self.desk.commit()
        self.pages.setCurrentIndex(index)
        self.page_tabs.show_names(PAGES, index)
        if index == 0:
            self.write_page.editor.setFocus()
        else:
            self.listen_page.focus_stops()[0].setFocus()

    def next_area(self) -> None:
        """Walk on: the page's areas, then the transport, the parts and the pages."""
        page = self.write_page if self.pages.currentIndex() == 0 else self.listen_page
        stops = [*page.focus_stops(), self.line, self.part_tabs, self.page_tabs]
        now = QApplication.focusWidget()
        at = next((i for i, s in enumerate(stops) if now is not None and (s is now or s.isAncestorOf(now))), -1)
        stops[(at + 1) % len(stops)].setFocus(Qt.FocusReason.ShortcutFocusReason)

    def _focus_changed(self, before: QWidget | None, now: QWidget | None) -> None:
        """Bare keys are for outside text."""
        from firn.ui.actions import ACTIONS

        text = (isinstance(now, QWidget) and now.inherits("QPlainTextEdit")) or (
            now is not None and now.inherits("QLineEdit")
        )
        button = now is not None and now.inherits("QPushButton")
        for spec in ACTIONS:
            if spec.when == "outside text":
                # A focused button has Space for itself.
                off = text or (button and spec.id == "dance_bare" and now is not self.dance_button)
                self.actions_by_id[spec.id].setEnabled(not off)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        digit = event.key() - Qt.Key.Key_0
        plain = event.modifiers() in (Qt.KeyboardModifier.NoModifier, Qt.KeyboardModifier.KeypadModifier)
        if (
            self.pages.currentIndex() == 1
            and 0 <= digit <= 9
            and plain
            and self.listen_page.question.answer_key(digit)
        ):
            return
        super().keyPressEvent(event)

    def _look(self, *, dark: bool | None = None, percent: int | None = None) -> None:
        theme = self._theme
        theme.set_look(
            dark=theme.dark if dark is None else dark, percent=theme.percent if percent is None else percent
        )
        self._keep(replace(self.settings, dark=theme.dark, text_percent=theme.percent))

    def _keep(self, settings: Settings) -> None:
        self.settings = settings
        save_settings(self._settings_path, settings)

    # Dancing

    def _strip_choice(self) -> tuple[object, object] | None:
        """A stretch to dance where none is selected: the phrase that the keys stand in."""
        stretch, strip = self.desk.stretch, self.write_page.strip
        if stretch is None or strip.current is None:
            return None
        place = stretch.sounds[strip.current].place // 1
        return place, min(place + 1, stretch.end)

    def toggle(self) -> None:
        """Dance, or stop."""
        if self._player.playing:
            self._player.stop()
            return
        self.desk.commit()
        self._render("dance", lambda made: self._player.play_model(made, loops=self.desk.transport.loops))

    def _render(self, key: str, done: Callable[[Rendered], None]) -> None:
        stretch, transport = self.desk.stretch, self.desk.transport
        if stretch is None or not stretch.sounds:
            return
        plan = danced(stretch, transport)

        def work(task: Task) -> Rendered:
            return render(plan.sounds, stretch.counting, plan.first, plan.end, transport.mixing, task)

        self.jobs.run(key, "Making the model", work, done)

    def _danced(self) -> None:
        self._show_line()
        if self._player.playing and self._model:
            # A change takes effect at the next pass.
            loops = self.desk.transport.loops
            self._render("change", lambda made: self._player.change_model(made, loops=loops))

    _model = False

    def _tempo(self, steps: int) -> None:
        self.desk.dance_as(self.desk.transport.faster(steps))

    def _asked(self, name: str, step: int) -> None:
        if name == "tempo":
            self._tempo(step)
            return
        action = {
            "stretch": "whole",
            "count_in": "count_in",
            "side": "side",
            "layers": "layers",
            "then": "then",
        }[name]
        self.actions_by_id[action].trigger()

    def ask_tempo(self) -> None:
        """Ask for a tempo."""
        tempo = self.prompts.tempo(self, self.desk.transport.tempo)
        if tempo is not None:
            self.desk.dance_as(replace(self.desk.transport, tempo=tempo))

    def _moved(self, position: object) -> None:
        stretch = self.desk.stretch
        if stretch is None or not self._model:
            return
        plan = danced(stretch, self.desk.transport)
        shown = position
        if plan.passes > 1 and position >= plan.first + plan.counts:  # type: ignore[operator]
            shown = position - plan.counts  # type: ignore[operator]
        page = self.write_page if self.pages.currentIndex() == 0 else self.listen_page
        if self._whole.currentIndex() == 1:
            self.stand_back.show_played(shown)  # type: ignore[arg-type]
        else:
            page.show_played(shown)

    def _started(self) -> None:
        self._model = self._player.plays_model
        self.dance_button.setText("Stop")
        self.dance_button.setEnabled(True)
        self.stand_back.show_playing(True)

    def _ended(self) -> None:
        self.dance_button.setText("Dance")
        for page in (self.write_page, self.listen_page):
            page.show_played(None)
        self.stand_back.show_playing(False)
        self._show_line()

    def _play_samples(self, sound: FloatArray) -> None:
        self._player.play_samples(sound)

    def _play_both(self, one: Heard) -> None:
        """The take, a breath, and the model at the take's own tempo."""
        part, stretch = self.desk.part, self.desk.stretch
        if part is None or stretch is None or not stretch.sounds:
            return
        tempo = one.verdict.tempo if one.verdict is not None else one.take.tempo
        mixing = Mixing(tempo=round(tempo, 1), count_in=4, counts=False, beats=False)

        def work(task: Task) -> FloatArray:
            model = render(stretch.sounds, stretch.counting, stretch.first, stretch.end, mixing, task)
            gap = np.zeros((RATE // 2, 2), dtype=np.float32)
            return np.concatenate([one.stereo(), gap, model.audio])

        self.jobs.run("dance", "Laying take and model together", work, self._play_samples)

    def toggle_stand_back(self) -> None:
        """Stand back, or come back to the desk."""
        away = self._whole.currentIndex() == 0
        self._whole.setCurrentIndex(1 if away else 0)
        self.menuBar().setVisible(not away)
        if away:
            self.stand_back.setFocus()
        else:
            self.show_page(self.pages.currentIndex())

    # Edits

    def do(self, edit: Edit) -> None:
        """Make an edit; says why where it cannot be made."""
        self.desk.commit()
        try:
            self._bridge.do(edit)
        except FirnError as fault:
            self.say(str(fault))

    def undo(self) -> None:
        self.desk.commit()
        self._bridge.session.undo()

    def redo(self) -> None:
        self.desk.commit()
        self._bridge.session.redo()

    def ask_counting(self) -> None:
        """Ask how the piece counts."""
        piece = self.desk.piece
        if piece is None:
            return
        dialog = CountingDialog(self.desk.settings, self)
        if self.prompts.run(dialog):
            self.do(SetHead(piece.id, dialog.head))
            self.desk.dance_as(replace(self.desk.transport, tempo=self.desk.settings.tempo))

    def new_piece(self) -> None:
        name = self.prompts.name(self, "New piece", "Its name", "Untitled")
        if name:
            self.do(AddPiece(new_piece(new_id(), new_id(), name.replace("#", " ").strip())))
            self.show_page(0)

    def next_piece(self) -> None:
        pieces, now = self._bridge.book.pieces, self.desk.piece
        if now is not None and len(pieces) > 1:
            following = pieces[(pieces.index(now) + 1) % len(pieces)]
            self.desk.go_to(following.id, following.parts[0].id if following.parts else "")

    def _show_pieces(self) -> None:
        menu = QMenu(self)
        for piece in self._bridge.book.pieces:
            part = piece.parts[0].id if piece.parts else ""
            menu.addAction(piece.name, lambda p=piece.id, q=part: self.desk.go_to(p, q))
        menu.addSeparator()
        menu.addAction(self.actions_by_id["new_piece"])
        menu.popup(self.title_button.mapToGlobal(self.title_button.rect().bottomLeft()))

    def delete_piece(self) -> None:
        if self.desk.piece is not None:
            name = self.desk.settings.name
            self.do(DeletePiece(self.desk.piece.id))
            self.say(f"{name} is deleted. Ctrl+Z brings it back.")

    def new_part(self) -> None:
        piece = self.desk.piece
        if piece is None:
            self.new_piece()
            return
        self.do(AddPart(piece.id, BookPart(new_id(), next_name(piece.parts), "")))
        self.show_page(0)

    def rename_part(self) -> None:
        piece, part = self.desk.piece, self.desk.book_part
        if piece is None or part is None:
            return
        name = self.prompts.name(self, "Rename part", "Its name", part.name)
        if name is not None:
            self.do(RenamePart(piece.id, part.id, name))

    def delete_part(self) -> None:
        piece, part = self.desk.piece, self.desk.book_part
        if piece is None or part is None:
            return
        self.do(DeletePart(piece.id, part.id))
        self.say(f"{part.name} and its takes are deleted. Ctrl+Z brings them back.")

    def _pick_part(self, index: int) -> None:
        piece, ids = self.desk.piece, self._part_ids()
        if piece is None or index >= len(ids):
            self.new_part()
        else:
            self.desk.go_to(piece.id, ids[index])

    def _walk_parts(self, step: int) -> None:
        ids = self._part_ids()
        if ids and self.desk.part_id in ids:
            self._pick_part((ids.index(self.desk.part_id) + step) % len(ids))

    # Takes

    def ask_recording(self) -> None:
        """Ask for a recording and bring it in."""
        if self.listen_page.file_button.isEnabled():
            path = self.prompts.open_file(self, "Bring in a recording", "Recordings (*.wav *.flac *.ogg)")
            if path is not None:
                self.bring_in(path)

    def bring_in(self, path: Path) -> None:
        """Bring a recording in as a take of the part on show."""
        piece, part = self.desk.piece, self.desk.book_part
        if piece is None or part is None:
            return
        start, length = 0.0, None
        try:
            info = take_info(path)
        except FirnError as fault:
            self.say(str(fault))
            return
        if info.long:
            dialog = StretchDialog(info, self)
            if not self.prompts.run(dialog):
                return
            start, length = dialog.start_s, dialog.length_s
        store, tempo = self._bridge.session.store, self.desk.transport.tempo

        def work(task: Task) -> Take:
            return bring_in(
                store,
                path,
                piece=piece.id,
                part=part.id,
                tempo=tempo,
                start_s=start,
                length_s=length,
                task=task,
            )

        self.show_page(1)
        self.jobs.run("take", f"Bringing in {path.name}", work, lambda take: self.do(AddTake(take)))

    def ask_simulation(self) -> None:
        """Ask what the simulated student gets wrong."""
        if not self.listen_page.simulate_button.isEnabled():
            return
        menu = QMenu(self)
        has_hold = self.desk.part is not None and any(s.kind == "hold" for s in self.desk.part.sounds)
        for kind, label in SIMULATED.items():
            action = menu.addAction(label, lambda k=kind: self.simulate(k))
            action.setEnabled(kind != "hold" or has_hold)
        self.prompts.menu(menu, self.listen_page.simulate_button)

    def simulate(self, kind: str) -> None:
        """Let the simulated student dance the part on show."""
        piece, part, book_part = self.desk.piece, self.desk.part, self.desk.book_part
        if piece is None or part is None or book_part is None:
            return
        store, tempo = self._bridge.session.store, self.desk.transport.tempo
        seed = len(self._bridge.book.takes) + 1

        def work(task: Task) -> Take:
            return simulate(
                store, part, kind, piece=piece.id, part_id=book_part.id, tempo=tempo, seed=seed, task=task
            )

        self.show_page(1)
        self.jobs.run("take", "The simulated student dances", work, lambda take: self.do(AddTake(take)))

    def rename_take(self) -> None:
        take = self.listen_page.take
        if take is not None:
            name = self.prompts.name(self, "Rename take", "Its name", take.name)
            if name is not None:
                self.do(RenameTake(take.id, name))

    def delete_take(self) -> None:
        take = self.listen_page.take
        if take is not None and self.pages.currentIndex() == 1:
            self.do(DeleteTake(take.id))
            self.say(f"{take.name} is deleted. Ctrl+Z brings it back.")

    # Files

    def new_workbook(self) -> None:
        path = self.prompts.save_file(self, "New workbook", "Firn workbooks (*.firn)", "class.firn")
        if path is not None:
            self._turn_to(lambda: Session.new(path))

    def open_workbook(self) -> None:
        path = self.prompts.open_file(self, "Open workbook", "Firn workbooks (*.firn)")
        if path is not None:
            self.open_path(path)

    def open_path(self, path: Path) -> None:
        """Open a workbook in place of this one; says why where it cannot be."""
        if path.absolute() != self._bridge.session.path.absolute():
            self._turn_to(lambda: Session.open(path))

    def _turn_to(self, opened: Callable[[], Session]) -> None:
        self.desk.commit()
        self._player.stop()
        if self._bridge.session.unsaved and not self._bridge.session.store.read_only and not self.prompts.leave(self):
            return
        try:
            session = opened()
        except FirnError as fault:
            self.say(str(fault))
            return
        self.jobs.cancel_all()
        self._bridge.turn_to(session)
        self._note_recent()

    def _note_recent(self) -> None:
        self._keep(self.settings.opened(self._bridge.session.path))
        self._recent.clear()
        for name in self.settings.recent:
            self._recent.addAction(Path(name).name, lambda n=name: self.open_path(Path(n)))

    def save_copy(self) -> None:
        self.desk.commit()
        path = self.prompts.save_file(self, "Save a copy", "Firn workbooks (*.firn)", "copy.firn")
        if path is None:
            return
        try:
            if path.absolute() == self._bridge.session.path.absolute():
                raise FirnError("A copy needs another name than the workbook's own.")
            self._bridge.session.save_copy(path)
        except FirnError as fault:
            self.say(str(fault))
        else:
            self.say(f"A copy is in {path.name}.")

    def read_steps(self) -> None:
        path = self.prompts.open_file(self, "Bring in a piece", "Pieces (*.steps)")
        if path is None:
            return
        try:
            text = read_steps(path)
        except FirnError as fault:
            self.say(str(fault))
            return
        ids = [new_id() for _ in range(2 + text.lower().count("part") + 1)]
        self.do(AddPiece(piece_of_script(text, ids)))
        self.show_page(0)

    def write_steps(self) -> None:
        piece = self.desk.piece
        if piece is None:
            return
        self.desk.commit()
        path = self.prompts.save_file(self, "Write out", "Pieces (*.steps)", f"{self.desk.settings.name}.steps")
        if path is not None:
            try:
                write_steps(path, self.desk.piece.script if self.desk.piece else "")
            except FirnError as fault:
                self.say(str(fault))

    def show_help(self) -> None:
        if self._help is None:
            self._help = HelpDialog(self._theme, key_rows(), self)
        self._help.show()
        self._help.raise_()

    @property
    def cautions(self) -> tuple[str, ...]:
        return CAUTIONS

    def closeEvent(self, event: QCloseEvent) -> None:
        self.desk.commit()
        session = self._bridge.session
        if session.unsaved and not session.store.read_only and not self.prompts.leave(self):
            event.ignore()
            return
        self._player.stop()
        self.jobs.close()
        geometry = QSettings("Firn", "Firn")
        geometry.setValue("geometry", self.saveGeometry())
        session.close()
        event.accept()


def _framed(layout: QHBoxLayout) -> QFrame:
    frame = QFrame()
    frame.setObjectName("framed")
    frame.setLayout(layout)
    return frame
