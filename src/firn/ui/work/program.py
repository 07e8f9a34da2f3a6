"""What belongs to the whole program: its settings, its look, recent workbooks, the help."""

from collections.abc import Callable
from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QWidget

from firn.session.session import Session
from firn.session.settings import ProgramSettings, save_settings
from firn.ui.theme.theme import Theme
from firn.ui.work.context import Handlers


def geometry_settings(settings_path: Path) -> QSettings:
    """Where the window's size and place are kept: beside the settings."""
    return QSettings(str(settings_path.with_name("window.ini")), QSettings.Format.IniFormat)


class Program:
    """The program's settings, kept as soon as they change; `recent` is told when the recent workbooks do."""

    def __init__(
        self,
        window: QWidget,
        theme: Theme,
        settings: ProgramSettings,
        path: Path,
        recent: Callable[[tuple[str, ...]], None],
    ) -> None:
        self._window, self.theme, self._recent = window, theme, recent
        self.settings, self.path = settings, path
        self._help: QWidget | None = None

    def handlers(self) -> Handlers:
        theme = self.theme
        return {
            "lamp": lambda: self.look(dark=not theme.dark),
            "larger": lambda: self.look(percent=theme.percent + 10),
            "smaller": lambda: self.look(percent=theme.percent - 10),
            "help": self.show_help,
        }

    def about(self) -> tuple[str, str]:
        """What Firn is: a title, and a few sentences."""
        from firn import __version__

        return f"Firn {__version__}", (
            "Footwork written down, checked, played and heard back. Nothing leaves your computer. "
            f"MIT licence; F1 names what it is built on. Settings are kept in {self.path}."
        )

    def keep(self, **changes: object) -> None:
        """Change some settings and keep them; what changes nothing is not written."""
        made = replace(self.settings, **changes)
        if made != self.settings:
            self.settings = made
            save_settings(self.path, made)

    def look(self, *, dark: bool | None = None, percent: int | None = None) -> None:
        """Change the look of the program."""
        theme = self.theme
        theme.set_look(
            dark=theme.dark if dark is None else dark, percent=theme.percent if percent is None else percent
        )
        self.keep(dark=theme.dark, text_percent=theme.percent)

    def opened(self, session: Session) -> None:
        """A workbook has been opened: it is the newest of the recent ones, unless it is not to be kept."""
        if session.scratch is None:
            self.keep(recent=self.settings.opened(session.path).recent)
        self._recent(self.settings.recent)

    def show_help(self) -> None:
        """Show keys, codes, cautions and licences."""
        from firn.ui.actions import key_rows
        from firn.ui.dialogs.help import HelpDialog

        if self._help is None:
            self._help = HelpDialog(self.theme, key_rows(), self._window)
        self.theme.dress(self._help)
        self._help.show()
        self._help.raise_()
