"""What can leave Firn: one entry for each kind, with what is asked for it."""

from typing import Literal

from msgspec import Struct

from firn.session.settings import PaperSize

Asked = Literal[
    "part",
    "side",
    "mirrored",
    "paper",
    "hall",
    "drill",
    "ticked",
    "language",
    "tempo",
    "climb",
    "voice",
    "student",
    "by",
    "licence",
    "note",
    "spoken",
    "clip",
    "days",
]  # fmt: skip
Group = Literal["paper", "pack", "film", "file"]


class Kind(Struct, frozen=True):
    """A kind of thing that leaves: what it is called, what it is in a sentence, the ending of its file, and what is
    asked for it."""

    id: str
    group: Group
    name: str
    says: str
    ending: str
    asks: tuple[Asked, ...]

    @property
    def printed(self) -> bool:
        """Whether it can go to a printer."""
        return self.group == "paper"


KINDS = (
    Kind("strip", "paper", "Strip", "The strip with its words and counts, what is said, and what is worth a look.",
         ".pdf", ("part", "side", "mirrored", "language", "paper", "hall")),
    Kind("levels", "paper", "Levels", "A part simpler, as written, harder and on a chair, the same counts below each "
         "other.", ".pdf", ("part", "paper", "hall")),
    Kind("cue", "paper", "Cue sheet", "A line a figure in the order of the dance, on one page: counts, foot, turn, "
         "wall, times, endings, and how all stand.", ".pdf", ("paper", "hall", "language")),
    Kind("counts", "paper", "Table of counts", "A column for each division, black and white, to be read from afar.",
         ".pdf", ("part", "side", "paper")),
    Kind("check", "paper", "Check", "All that Read finds, and what it measures.", ".pdf", ("part", "paper", "hall")),
    Kind("drill", "paper", "Drill", "The stages of a drill, a box to tick, and room for the tempo it was clean at.",
         ".pdf", ("drill", "paper", "hall")),
    Kind("week", "paper", "Practice", "Some days of practice with their stages, a box to tick, and room for the "
         "tempo it was clean at.", ".pdf", ("paper", "hall", "days")),
    Kind("pack", "pack", "Pack for students", "One page that opens on a phone without network: strip, sound at any "
         "tempo, questions to the ear, practice to tick. What they did comes back by Log.", ".html",
         ("part", "student", "language", "tempo", "ticked", "days", "by", "licence", "note", "spoken", "clip")),
    Kind("film", "film", "Film of the model", "The word now and next, strip and counts, with sound.", ".webm",
         ("part", "tempo", "climb", "mirrored", "side")),
    Kind("sound", "file", "Sound", "The model once through, after its count-in.", ".mp3", ("part", "tempo", "voice")),
    Kind("midi", "file", "MIDI", "A track for each foot, hands, counts and click; kinds as notes.", ".mid",
         ("part", "tempo")),
    Kind("musicxml", "file", "MusicXML", "A percussion staff, each foot a voice, words and counts below.",
         ".musicxml", ("part", "tempo")),
    Kind("abc", "file", "ABC", "The rhythm as ABC notation, the words below.", ".abc", ("part", "tempo")),
    Kind("text", "file", "Text", "The whole piece as a .steps text.", ".steps", ()),
    Kind("table", "file", "Table of sounds", "Every sound of every part, for a spreadsheet.", ".csv", ()),
    Kind("ledger", "file", "Ledger as a table", "Every pass of the combo, for a spreadsheet.", ".csv", ()),
    Kind("log", "file", "Log as a table", "What you and your students danced, for a spreadsheet.", ".csv", ()),
    Kind("picture", "file", "Strip as a picture", "For a handout of your own.", ".svg",
         ("part", "side", "mirrored", "language")),
    Kind("calendar", "file", "Practice as a calendar", "A week of practice, an entry a day.", ".ics", ("days",)),
)  # fmt: skip


class Outgoing(Struct, frozen=True):
    """What is to leave, and how it will be. `part`: a part's name, "" for what is on show, "combo" for that. `climb`:
    the tempo that a ladder from `tempo` on leads to, 0 for none; `hall`: in letters to be read across a hall;
    `drill`, `ticked`: a drill by its id, on paper and in a pack; `spoken`: the path of a recording of the teacher's
    voice; `clip`: with the picture of the clip that a part is from."""

    kind: Kind = KINDS[0]
    part: str = ""
    swapped: bool = False
    mirrored: bool = False
    paper: PaperSize = "A4"
    hall: bool = False
    drill: str = ""
    ticked: str = ""
    language: str = ""
    tempo: float = 0.0
    climb: float = 0.0
    counts: bool = True
    student: str = ""
    by: str = ""
    licence: str = ""
    note: str = ""
    spoken: str = ""
    clip: bool = False
    days: int = 0
    printed: bool = False
