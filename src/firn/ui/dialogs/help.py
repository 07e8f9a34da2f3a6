"""F1: keys, how to write, codes, cautions and licences."""

from collections.abc import Sequence
from html import escape
from importlib import resources

from PySide6.QtWidgets import QDialog, QTextBrowser, QVBoxLayout, QWidget

from firn import __version__
from firn.core.script.problems import CODES
from firn.session.cautions import CAUTIONS
from firn.ui.theme.theme import Theme

_WRITING = (
    ("8 stomp  1 hop", "a count, then the step on it"),
    ("&amp;3 flap", "a count for each sound"),
    ("flap flap", "without a count: the next beat"),
    ("6-7 hold", "counts without sound are written too"),
    ("R stomp, L heel, both jump", "a foot, where it is not the free one"),
    ("stamp!  step~", "leaned on; soft"),
    ("(heel)", "optional"),
    ("step + clap, heel = toe", "at one place; meant as one"),
    ("step 1/4 right, turn half left", "the body turns so far with it"),
    ("A x3, 2nd time ends: &amp; touch, Break", "in the combo: times, endings; turn 1/4 right, (A, B) x2"),
    ("flap x4, ( 1 step &amp;2 flap ) x2", "again"),
    ("other side, again x3, same but 7 stamp", "a line of its own: the line before again"),
    ("pull or brush", "either of them"),
    ("hands: 2 clap, arms: 1-4 up, scat: da doo, note: keep tall", "beside the steps, each in a line of its own"),
    ("# a note", "for you alone"),
)


def help_html(keys: Sequence[tuple[str, str]]) -> str:
    """The help's text."""
    licences = (
        "Firn is under the MIT licence. Its letters are Inter, © The Inter Project Authors, "
        "SIL Open Font Licence 1.1. "
        "Its spoken counts and syllables were rendered with eSpeak NG. It runs on Python, Qt for Python (LGPL), "
        "NumPy, SciPy, pyloudnorm, soundfile with libsndfile (LGPL), msgspec, tomlkit, mido, "
        "defusedxml and miniaudio. Recordings that only phones and cameras make are opened by PyAV (BSD), whose "
        "wheel carries FFmpeg's libraries and, among others, x264 and x265 (GPL), LAME (LGPL), dav1d, libvpx, "
        "SVT-AV1 and Opus (BSD)."
    )

    def table(rows: Sequence[tuple[str, str]]) -> str:
        cells = "".join(f"<tr><td style='padding:3px 22px 3px 0'><b>{a}</b></td><td>{b}</td></tr>" for a, b in rows)
        return f"<table>{cells}</table>"

    codes = table([(code, escape(text)) for code, text in sorted(CODES.items())])
    cautions = "".join(f"<li>{escape(c)}</li>" for c in CAUTIONS)
    return (
        f"<h2>Keys</h2>{table([(escape(k), escape(t)) for k, t in keys])}"
        f"<h2>Writing steps</h2>{table(_WRITING)}"
        f"<h2>Take care</h2><ul>{cautions}</ul>"
        f"<h2>What the codes mean</h2>{codes}"
        f"<h2>Licences</h2><p>{escape(licences)}</p><p>Firn {__version__}</p>"
        f"<h3>Inter</h3><pre>{escape(font_licence())}</pre>"
    )


def font_licence() -> str:
    """The licence of the shipped letters."""
    return resources.files("firn.ui").joinpath("resources/fonts/OFL.txt").read_text("utf-8")


class HelpDialog(QDialog):
    """A window of its own, so that it can be read beside the work."""

    def __init__(self, theme: Theme, keys: Sequence[tuple[str, str]], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Help")
        self.resize(760, 640)
        self.text = QTextBrowser()
        self.text.setFont(theme.font(15))
        self.text.setHtml(help_html(keys))
        self.text.setAccessibleName("Help")
        box = QVBoxLayout(self)
        box.addWidget(self.text)
