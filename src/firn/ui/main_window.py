"""The window: pages along a thread at the top, the transport below, and everything by key."""

from fractions import Fraction
from functools import partial
from itertools import pairwise
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QCloseEvent, QDragEnterEvent, QDropEvent, QKeyEvent, QKeySequence, QShortcut
from PySide6.QtWidgets import (
    QApplication,
    QHBoxLayout,
    QMainWindow,
    QMenu,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from firn.files.cards import OwnCards
from firn.files.formats import CARDS, FILM, PIECE, RECORDING, TUNE, WORKBOOK
from firn.session.session import Session
from firn.session.settings import ProgramSettings
from firn.session.transport import spoken_line
from firn.ui.actions import enable_actions, fill_menus, make_actions, tip
from firn.ui.bridge import SessionBridge
from firn.ui.desk import Desk
from firn.ui.dialogs.prompts import Prompts
from firn.ui.head import Corner, Head
from firn.ui.jobs import JobRunner
from firn.ui.pages.entries import PAGES, TITLES, WRITE, PageView
from firn.ui.pages.write.page import WritePage
from firn.ui.player import Player
from firn.ui.rooms import Rooms
from firn.ui.stand_back import StandBack
from firn.ui.theme.theme import Theme
from firn.ui.widgets.labels import framed, rule, shown
from firn.ui.widgets.room import PageFrame
from firn.ui.widgets.rows import Banner, Working
from firn.ui.widgets.spoken_line import SpokenLine
from firn.ui.work.cards import Cards
from firn.ui.work.clips import Clips
from firn.ui.work.context import Context, Handlers
from firn.ui.work.dancing import Dancing
from firn.ui.work.dropped import Readers, dropped_file, read_dropped
from firn.ui.work.editing import Editing
from firn.ui.work.pieces import Pieces
from firn.ui.work.program import Program, geometry_settings
from firn.ui.work.tapping import Tapping
from firn.ui.work.workbooks import Workbooks

if TYPE_CHECKING:
    from firn.devices.duplex import OpenDuplex
    from firn.ui.pages.listen.page import ListenPage
    from firn.ui.pages.log.page import LogPage
    from firn.ui.work.recording import Recording

DEMO = "This is a demo, an invented evening class: nothing in it can go wrong, and it goes with its window."


class MainWindow(QMainWindow):
    """Joins desk, pages, player and files; what it knows of the trade is in the desk."""

    def __init__(
        self,
        bridge: SessionBridge,
        theme: Theme,
        player: Player,
        settings: ProgramSettings,
        settings_path: Path,
        cards: OwnCards,
        *,
        prompts: Prompts | None = None,
        open_duplex: "OpenDuplex | None" = None,
    ) -> None:
        super().__init__()
        self._bridge, self._theme, self._player = bridge, theme, player
        self.program = Program(self, theme, settings, settings_path, self._show_recent)
        self.prompts = prompts or Prompts(
            settings.folder, keep=lambda folder: self.program.keep(folder=folder), dress=theme.dress
        )
        self.jobs = JobRunner(self)
        self.desk = Desk(bridge, cards.shelf, self, view=settings.view, styles=settings.styles, beside=self.jobs.run)
        self.write_page = WritePage(self.desk, theme)
        self.stand_back = StandBack(self.desk, theme)
        self.head, self.menu_corner = Head(self.desk, theme), Corner(theme, self)
        self.page_tabs, self.part_tabs = self.menu_corner.pages, self.head.parts
        self.line = SpokenLine(theme)
        self.dance_button = QPushButton("Dance")
        self.stand_button = QPushButton("Stand back")
        self.title_button, self.counts_button = self.head.title, self.head.counts
        self.banner = Banner(theme)
        self.working = Working(theme)
        self._context = Context(
            self, bridge, self.desk, self.jobs, self.prompts, self.say, self.show_page, self.write_page.item_stood_on
        )
        self.dancing = Dancing(self._context, player, self._standing)
        self.cards = Cards(
            self._context, settings.cards_folder, cards, lambda folder: self.program.keep(cards=str(folder))
        )
        self.rooms = Rooms(
            self._context, theme, self.program, self.dancing, self.cards, self.stand_back,
            self.head.who, put=self._put_page, moved=self._moved, open_duplex=open_duplex,
        )  # fmt: skip
        self.pieces = Pieces(self._context, self.program)
        self._tapping = Tapping(self._context, self.write_page, player)
        self.clips = Clips(self._context, self.write_page, player, self._tapping)
        self.clips.pictured = self.stand_back.show_picture
        self.editing = Editing(self._context, self._point)
        self.workbooks = Workbooks(self._context, self.dancing.stop, self._opened)
        self.actions_by_id = make_actions(self, self._handlers())
        self.menus = fill_menus(self.menuBar(), self.actions_by_id)
        self._recent = QMenu("Recent workbooks", self)
        self._recent.aboutToShow.connect(lambda: self._theme.dress(self._recent))
        self.menus["Piece"].insertMenu(self.actions_by_id["copy"], self._recent)
        self._lay_out()
        self._connect()
        self._restyle()
        self.setMinimumSize(1000, 620)
        self.setAcceptDrops(True)
        self._readers: Readers = {
            WORKBOOK: self.workbooks.open_path,
            PIECE: self.pieces.bring_in,
            TUNE: self.pieces.bring_in_tune,
            CARDS: self.cards.bring_in_file,
            FILM: lambda path: self._bring_film(path),
            RECORDING: lambda path: self.rooms.takes.bring_in(path),
        }
        for button, action in ((self.dance_button, "dance"), (self.stand_button, "stand_back")):
            button.setToolTip(tip(action))
        self.show_desk()
        self._opened(bridge.session)
        self.cards.tell()
        self.workbooks.tell()

    # Building

    def _handlers(self) -> Handlers:
        return {
            **self.dancing.handlers(),
            **self.pieces.handlers(),
            **self.workbooks.handlers(),
            **self.cards.handlers(),
            **self.program.handlers(),
            **self.editing.handlers(),
            **self._tapping.handlers(),
            **self.clips.handlers(),
            "settings": self.ask_settings,
            "about": lambda: self.prompts.tell(self, *self.program.about()),
            **self.rooms.handlers(),
            "hear_place": lambda: self.dancing.hear_place(*self._page.looked_at()),
            "quit": self.close,
            "stand_back": self.toggle_stand_back,
            **{f"{page.id}_page": partial(self.show_page, place) for place, page in enumerate(PAGES)},
            "next_area": self.next_area,
        }

    def _lay_out(self) -> None:
        # PySide6 drops a corner widget that nothing else holds.
        self.menuBar().setCornerWidget(self.menu_corner, Qt.Corner.TopRightCorner)
        self.pages = QStackedWidget()
        self.pages.addWidget(self.write_page)
        # The others are made when they are first turned to.
        for _ in PAGES[1:]:
            self.pages.addWidget(QWidget())
        bar = QHBoxLayout()
        bar.setContentsMargins(24, 6, 24, 6)
        bar.setSpacing(20)
        bar.addWidget(self.dance_button)
        bar.addWidget(self.line, 1)
        bar.addWidget(self.stand_button)
        self._bar = framed(bar)
        desk = QWidget()
        box = QVBoxLayout(desk)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        self._rule = rule()
        box.addWidget(self.head)
        box.addWidget(self._rule)
        box.addWidget(self.banner)
        box.addWidget(self.working)
        box.addWidget(self.pages, 1)
        box.addWidget(self._bar)
        self._whole = QStackedWidget()
        self._whole.addWidget(desk)
        self._whole.addWidget(self.stand_back)
        self.setCentralWidget(self._whole)
        self.dance_button.setProperty("next", "true")
        QWidget.setTabOrder(self.page_tabs, self.part_tabs)

    def _connect(self) -> None:
        desk = self.desk
        desk.shown.connect(self.show_desk)
        desk.turned.connect(self._turned)
        desk.danced.connect(self._show_line)
        self.page_tabs.picked.connect(self.show_page)
        self.part_tabs.picked.connect(self.pieces.pick)
        self.line.asked.connect(self._asked)
        self.write_page.told.connect(self.say)
        self.write_page.ending.connect(self.pieces.ask_ending)
        self.dance_button.clicked.connect(self.dancing.toggle)
        self.stand_button.clicked.connect(self.toggle_stand_back)
        self.title_button.clicked.connect(self._show_pieces)
        self.counts_button.clicked.connect(self.pieces.ask_counting)
        self.head.who.clicked.connect(lambda: self.rooms.students.show_menu())
        self.banner.copy.connect(self.workbooks.save_copy)
        self.banner.keep.connect(self.workbooks.keep_demo)
        self.banner.begin.connect(self.pieces.new_part)
        self.working.stop.connect(self.jobs.cancel_all)
        self.jobs.busy.connect(self.working.show_work)
        self.jobs.idle.connect(self.working.hide)
        self.jobs.failed.connect(self.say)
        self.dancing.moved.connect(self._moved)
        self.dancing.moved.connect(self.clips.follow)
        self.dancing.playing.connect(self._show_playing)
        self._player.silent.connect(self.say)
        self.stand_back.left.connect(self.toggle_stand_back)
        self.stand_back.toggled.connect(self._toggle_dancing)
        self.stand_back.wanted.connect(self._stand_back_now)
        self.stand_back.tempo.connect(self.dancing.tempo)
        self._theme.changed.connect(self._restyle)
        self._theme.changed.connect(self.show_desk)
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        app.focusChanged.connect(self._focus_changed)
        for number in range(1, 10):
            shortcut = QShortcut(QKeySequence(f"Alt+{number}"), self)
            shortcut.activated.connect(lambda n=number: self._take_mend(n))

    def _take_mend(self, number: int) -> None:
        self._page.take_mend(number)

    def _restyle(self) -> None:
        theme = self._theme
        t = theme.tokens
        self.head.restyle()
        theme.dress(self.menuBar())
        self._rule.setStyleSheet(f"background: {t.hairline}; border: none")
        theme.dress(self._bar, f"#framed {{ background: {t.band}; }}")
        if self._whole.currentIndex():
            theme.dress(self.stand_back)
        if (shown := self.pages.currentWidget()) is not None:
            theme.dress(shown)
        self.menu_corner.restyle()
        self.dance_button.setMinimumWidth(theme.px(92))

    # Showing

    def show_desk(self) -> None:
        """Show the names, the part tabs and the transport."""
        desk = self.desk
        self.head.show_desk(self.pieces.ids())
        self.menu_corner.show_page(self.pages.currentIndex())
        session = self._bridge.session
        unsaved, demo = session.unsaved, session.scratch is not None
        if unsaved and session.store.read_only:
            unsaved = " ".join((unsaved, *session.told))
        self.banner.show_standing(unsaved or (DEMO if demo else ""), demo=demo and not unsaved)
        self.menu_corner.show_kept("not kept" if unsaved else "a demo" if demo else "kept")
        history = self._bridge.session.history
        for name, label in (("undo", history.undo_label), ("redo", history.redo_label)):
            action = self.actions_by_id[name]
            action.setEnabled(bool(label) or (name == "undo" and desk.drafting))
            action.setText(shown(f"{name.capitalize()} {label[:1].lower() + label[1:]}".strip()))
        self._show_line()

    def _show_line(self) -> None:
        if not self.desk.whole:
            # While a long part is typed in: what it comes to is said when all of it is read.
            return
        stretch = self.desk.stretch
        if stretch is not None:
            self.line.show_values(spoken_line(self.desk.title, stretch, self.desk.transport, self.desk.view))
        can = stretch is not None and bool(stretch.sounds)
        self.dance_button.setEnabled(can or self._player.playing)

    def _turned(self) -> None:
        self.dancing.stop()
        self._tapping.rest()
        self.rooms.leave()
        self.show_desk()

    def _show_pieces(self) -> None:
        menu = QMenu(self)
        menu.addSeparator()
        menu.addAction(self.actions_by_id["new_piece"])
        self.pieces.show_menu(self.title_button, menu)

    def _standing(self) -> Fraction | None:
        """The place of the sound that the keys stand on."""
        stretch, current = self.desk.stretch, self.write_page.strip.current
        if stretch is None or current is None or current >= len(stretch.sounds):
            return None
        return stretch.sounds[current].place

    def _asked(self, name: str, step: int) -> None:
        if name == "tempo":
            self.dancing.tempo(step)
            return
        self.dancing.handlers()[{"stretch": "whole"}.get(name, name)]()

    def _moved(self, position: Fraction, swapped: bool) -> None:
        if self._whole.currentIndex() == 1:
            self.stand_back.show_played(position, swapped=swapped)
        else:
            self._page.show_played(position)

    def _show_playing(self, playing: bool) -> None:
        self.dance_button.setText("Stop" if playing else "Dance")
        if not playing:
            self.write_page.show_played(None)
            if self.rooms.made("listen"):
                self.listen_page.show_played(None)
        self.stand_back.show_playing(playing)
        self._show_line()

    @property
    def listen_page(self) -> "ListenPage":
        return self.rooms.listen

    @property
    def log_page(self) -> "LogPage":
        return self.rooms.log

    @property
    def recording(self) -> "Recording":
        return self.rooms.recording

    def _put_page(self, index: int, page: QWidget) -> None:
        """Put a page in its place, where an empty one has stood."""
        empty = self.pages.widget(index)
        assert empty is not None
        self.pages.insertWidget(index, PageFrame(page))
        self.pages.removeWidget(empty)
        empty.deleteLater()
        # Made last, its widgets would come after the transport: they belong after what stands above every page.
        inner = [
            w for w in page.findChildren(QWidget) if w.window() is self and w.focusPolicy() & Qt.FocusPolicy.TabFocus
        ]
        following = self.counts_button.nextInFocusChain()
        assert following is not None
        for before, after in pairwise([self.counts_button, *inner, following]):
            QWidget.setTabOrder(before, after)

    @property
    def _page(self) -> PageView:
        return self._page_at(self.pages.currentIndex())

    def _page_at(self, index: int) -> PageView:
        return self.write_page if index == 0 else self.rooms.page(index)

    def say(self, sentence: str) -> None:
        """Say something for a while: in the banner, and in the stand-back view where that is looked at."""
        self.banner.say(sentence)
        if self._whole.currentIndex() == 1:
            self.stand_back.say(sentence)

    def show_page(self, index: int) -> None:
        """Turn to a page."""
        self.desk.commit()
        self._page_at(index)
        page = self.pages.widget(index)
        assert page is not None
        self._theme.dress(page)
        self.pages.setCurrentIndex(index)
        self.page_tabs.show_names(TITLES, index)
        if index == 0:
            self.write_page.editor.setFocus()
        else:
            self._page.focus_stops()[0].setFocus()

    def next_area(self) -> None:
        """Walk on: the page's areas, then the transport, the parts and the pages."""
        stops = [*self._page.focus_stops(), self.line, self.part_tabs, self.page_tabs]
        now = QApplication.focusWidget()
        at = next((i for i, s in enumerate(stops) if now is not None and (s is now or s.isAncestorOf(now))), -1)
        stops[(at + 1) % len(stops)].setFocus(Qt.FocusReason.ShortcutFocusReason)

    def _focus_changed(self, before: QWidget | None, now: QWidget | None) -> None:
        """Bare keys are for outside text."""
        # A focused button has Space for itself.
        button = now is not None and now.inherits("QPushButton") and now is not self.dance_button
        text = now is not None and (now.inherits("QPlainTextEdit") or now.inherits("QLineEdit"))
        enable_actions(self.actions_by_id, text=text, button=button, page=PAGES[self.pages.currentIndex()].title)
        self.line.set_asleep(text)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        digit = event.key() - Qt.Key.Key_0
        plain = event.modifiers() in (Qt.KeyboardModifier.NoModifier, Qt.KeyboardModifier.KeypadModifier)
        if plain and 0 <= digit <= 9 and self._page.answer_key(digit):
            return
        super().keyPressEvent(event)

    def _point(self, line: int, column: int, end: int) -> None:
        """Show a place in the text, once what is shown is that text."""
        self.write_page.show_desk()
        self.write_page.editor.setFocus()
        self.write_page.editor.go_to(line, column, end)

    def ask_settings(self) -> None:
        """Ask for the program's settings, and put those that were changed in force."""
        from firn.ui.dialogs.settings import SettingsDialog

        dialog = SettingsDialog(self.program.settings, self)
        if not self.prompts.run(dialog):
            return
        changes = dict(dialog.changes)
        look = {name: changes.pop(name) for name in ("dark", "text_percent") if name in changes}
        if look:
            self.program.look(dark=look.get("dark"), percent=look.get("text_percent"))
        if "cards" in changes:
            self.cards.read(Path(changes.pop("cards")))
        self.program.keep(**changes)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if dropped_file(event.mimeData()) is not None:
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        path = dropped_file(event.mimeData())
        if path is not None:
            event.acceptProposedAction()
            read_dropped(path, self._readers, self.say)

    def _toggle_dancing(self) -> None:
        """Dance or stop from across the room: the drill, or the clock of the class, where one is on."""
        if self.rooms.drilling:
            self.rooms.drills.run.toggle()
        elif self.rooms.in_class:
            self.rooms.classes.run.toggle()
        else:
            self.dancing.toggle()

    def _stand_back_now(self) -> None:
        if self._whole.currentIndex() == 0:
            self.toggle_stand_back()

    def _bring_film(self, path: Path) -> None:
        """A film is looked at where steps are written, and elsewhere is a take."""
        if self.pages.currentIndex() == WRITE:
            self.clips.open(path)
        else:
            self.rooms.takes.bring_in(path)

    def toggle_stand_back(self) -> None:
        """Stand back, or come back to the desk; a drill that is danced from there ends, and a class."""
        away = self._whole.currentIndex() == 0
        if not away and self.rooms.drilling:
            self.rooms.drills.run.leave()
        if not away and self.rooms.in_class:
            self.rooms.classes.leave()
        if away:
            self._theme.dress(self.stand_back)
        self._whole.setCurrentIndex(1 if away else 0)
        self.menuBar().setVisible(not away)
        if away:
            self.stand_back.setFocus()
        else:
            self.stand_back.say("")
            self.show_page(self.pages.currentIndex())

    def _opened(self, session: Session) -> None:
        """A workbook has been opened: it is named above the window."""
        self.program.opened(session)
        self.setWindowTitle(
            "Firn: a demo" if session.scratch is not None else f"{session.path.name.replace('[*]', '[*][*]')}, Firn"
        )
        self.actions_by_id["keep_demo"].setVisible(session.scratch is not None)

    def _show_recent(self, recent: tuple[str, ...]) -> None:
        self.workbooks.fill_recent(self._recent, recent)

    def closeEvent(self, event: QCloseEvent) -> None:
        self.desk.commit()
        if not self.workbooks.may_leave():
            event.ignore()
            return
        self.dancing.stop()
        self.clips.leave()
        self.rooms.leave()
        self.jobs.close()
        geometry_settings(self.program.path).setValue("geometry", self.saveGeometry())
        self._bridge.session.close()
        event.accept()
