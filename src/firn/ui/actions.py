"""Every action of the window, in one table: menus and the help's list of keys are made of it."""

from collections.abc import Callable, Mapping
from typing import Literal

from msgspec import Struct
from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QMenu, QMenuBar, QWidget

from firn.ui.pages.entries import PAGES

When = Literal["always", "outside text"]


class ActionSpec(Struct, frozen=True):
    """An action: its id, words, keys (the first is shown), and menu.

    Bare keys work only outside text: `when` says so. `menu` "" keeps it out of the menus.
    """

    id: str
    text: str
    keys: tuple[str, ...]
    menu: str
    when: When = "always"
    separated: bool = False


ACTIONS = (
    ActionSpec("new", "New workbook…", ("Ctrl+Shift+N",), "Piece"),
    ActionSpec("open", "Open workbook…", ("Ctrl+O",), "Piece"),
    ActionSpec("copy", "Save a copy…", ("Ctrl+Shift+S",), "Piece"),
    ActionSpec("keep_demo", "Keep the demo as a workbook of yours…", ("Ctrl+Alt+K",), "Piece"),
    ActionSpec("new_piece", "New piece", ("Ctrl+N",), "Piece", separated=True),
    ActionSpec("next_piece", "Next piece", ("Ctrl+Shift+PgDown",), "Piece"),
    ActionSpec("read_steps", "Bring in a .steps text…", ("Ctrl+I",), "Piece"),
    ActionSpec("write_steps", "Write out as .steps…", ("Ctrl+E",), "Piece"),
    ActionSpec("cards", "Cards of your own…", ("Ctrl+K",), "Piece"),
    ActionSpec("delete_piece", "Delete piece", (), "Piece"),
    ActionSpec("print", "Give out…", ("Ctrl+P",), "Piece", separated=True),
    ActionSpec("pdf", "Write as PDF…", ("Ctrl+Shift+P",), "Piece"),
    ActionSpec("quit", "Quit", ("Ctrl+Q",), "Piece", separated=True),
    ActionSpec("undo", "Undo", ("Ctrl+Z",), "Edit"),
    ActionSpec("redo", "Redo", ("Ctrl+Shift+Z", "Ctrl+Y"), "Edit"),
    ActionSpec("cut", "Cut", ("Ctrl+X",), "Edit", separated=True),
    ActionSpec("copy_text", "Copy", ("Ctrl+C",), "Edit"),
    ActionSpec("paste", "Paste", ("Ctrl+V",), "Edit"),
    ActionSpec("select_all", "Select all", ("Ctrl+A",), "Edit"),
    ActionSpec("find", "Find…", ("Ctrl+F",), "Edit", separated=True),
    ActionSpec("settings", "Settings…", ("Ctrl+,",), "Edit", separated=True),
    ActionSpec("counting", "How it counts…", ("F4",), "Part"),
    ActionSpec("bring_tune", "Bring in its tune…", ("Ctrl+Alt+A",), "Part"),
    ActionSpec("tunes_suit", "Which of my tunes suit…", ("Ctrl+Alt+Q",), "Part"),
    ActionSpec("words", "What words mean…", ("Ctrl+Shift+W",), "Part"),
    ActionSpec("new_part", "New part", ("Ctrl+T",), "Part", separated=True),
    ActionSpec("bring_part", "Bring in a part…", ("Ctrl+Shift+A",), "Part"),
    ActionSpec("rename_part", "Rename part…", ("F2",), "Part"),
    ActionSpec("delete_part", "Delete part", ("Ctrl+Shift+D",), "Part"),
    ActionSpec("versions", "Another version…", ("Ctrl+R",), "Part"),
    ActionSpec("levels", "At several levels…", ("Ctrl+Shift+R",), "Part"),
    ActionSpec("fill_counts", "Fill in the counts", ("Ctrl+Shift+C",), "Part"),
    ActionSpec("fill_combo", "Fill counts with steps…", ("Ctrl+Alt+J",), "Part"),
    ActionSpec("tap_in", "Tap it in", ("Ctrl+J",), "Part"),
    ActionSpec("clip", "Take it off a clip…", ("Ctrl+Shift+J",), "Part"),
    ActionSpec("step_of_selection", "Make a step of what is selected…", ("Ctrl+M",), "Part"),
    ActionSpec("next_part", "Next part", ("Ctrl+PgDown",), "Part", separated=True),
    ActionSpec("previous_part", "Previous part", ("Ctrl+PgUp",), "Part"),
    ActionSpec("dance", "Dance or stop", ("Ctrl+Space",), "Play"),
    ActionSpec("dance_bare", "Dance or stop", ("Space",), "", "outside text"),
    ActionSpec("whole", "The whole part, or what is selected", ("L",), "Play", "outside text", True),
    ActionSpec("slower", "Slower", ("-", "Ctrl+Down"), "Play", "outside text"),
    ActionSpec("faster", "Faster", ("+", "=", "Ctrl+Up"), "Play", "outside text"),
    ActionSpec("set_tempo", "Tempo…", ("F7",), "Play"),
    ActionSpec("count_in", "Another count-in", ("C",), "Play", "outside text"),
    ActionSpec("side", "Other side", ("O",), "Play", "outside text"),
    ActionSpec("layers", "With counts or beats", ("V",), "Play", "outside text"),
    ActionSpec("then", "And then", ("R",), "Play", "outside text"),
    ActionSpec("own_music", "Music of your own…", ("Ctrl+Alt+V",), "Play"),
    ActionSpec("view", "Layers and view…", ("Ctrl+L",), "View"),
    ActionSpec("stand_back", "Stand back", ("F8",), "Play", separated=True),
    ActionSpec("run_drill", "Dance the drill", ("Shift+F8",), "Drill"),
    ActionSpec("new_drill", "New drill", ("Ctrl+Alt+D",), "Drill", separated=True),
    ActionSpec("ladder", "A ladder of tempos", ("U",), "Drill", "outside text"),
    ActionSpec("plan_drill", "Plan a practice…", ("Ctrl+Alt+M",), "Drill"),
    ActionSpec("plan_class", "Plan a class…", ("Ctrl+Alt+G",), "Drill"),
    ActionSpec("drill_text", "The drill as text…", ("Ctrl+Alt+X",), "Drill"),
    ActionSpec("own_call", "Call this part in your own voice…", ("Ctrl+Alt+U",), "Drill"),
    ActionSpec("rename_drill", "Rename the drill…", ("Ctrl+F2",), "Drill"),
    ActionSpec("next_drill", "Next drill", ("Alt+PgDown",), "Drill"),
    ActionSpec("delete_drill", "Delete the drill", ("Ctrl+Alt+Backspace",), "Drill"),
    ActionSpec("record", "Record a take", ("T",), "Take", "outside text"),
    ActionSpec("record_how", "How takes are recorded…", ("Ctrl+Shift+T",), "Take"),
    ActionSpec("clap_along", "Clap along: how late is the device?", ("Ctrl+Shift+K",), "Take"),
    ActionSpec("bring_in", "Bring in a recording…", ("I",), "Take", "outside text"),
    ActionSpec("simulate", "Simulated student…", ("S",), "Take", "outside text"),
    ActionSpec("hear_mine", "Hear the take", ("M",), "Take", "outside text", True),
    ActionSpec("hear_both", "Hear the take, then the model", ("H",), "Take", "outside text"),
    ActionSpec("hear_question", "Hear what is asked about", ("E",), "Take", "outside text"),
    ActionSpec("skip_question", "Show the verdict", ("K",), "Take", "outside text"),
    ActionSpec("ask_ear", "Ask my ear about this part", ("Shift+A",), "Take", "outside text"),
    ActionSpec("next_pass", "Next time through", ("P",), "Take", "outside text"),
    ActionSpec("other_start", "The other start", ("B",), "Take", "outside text"),
    ActionSpec("as_heard", "Judge it as what it is", ("J",), "Take", "outside text"),
    ActionSpec("anyway", "Judge it all the same", ("Shift+J",), "Take", "outside text"),
    ActionSpec("rename_take", "Rename take…", ("Shift+F2",), "Take", separated=True),
    ActionSpec("delete_take", "Delete take", ("Ctrl+Shift+Backspace",), "Take"),
    ActionSpec("about_take", "About the take…", ("Shift+F4",), "Take"),
    ActionSpec("note", "Note a practice…", ("N",), "Log", "outside text"),
    ActionSpec("change_log", "Change what is noted…", ("F3",), "Log"),
    ActionSpec("delete_log", "Delete what is noted", ("Ctrl+Shift+Delete",), "Log"),
    ActionSpec("bring_back", "Bring in what students did…", ("Ctrl+Alt+H",), "Log", separated=True),
    ActionSpec("review_lack", "What most lack into the next class", ("Ctrl+Alt+L",), "Log"),
    ActionSpec("whose", "Who practises…", ("Ctrl+Alt+W",), "Log", separated=True),
    ActionSpec("hear_step", "Hear the step", ("A",), "Step", "outside text"),
    ActionSpec("hear_step_slowly", "Hear it slowly", ("Shift+Return",), "Step"),
    ActionSpec("lay_beside", "Lay another step beside it", ("D",), "Step", "outside text"),
    ActionSpec("put_step", "Put it into the part", ("Ctrl+Return",), "Step"),
    ActionSpec("new_step", "New step…", ("Ctrl+Alt+N",), "Step", separated=True),
    ActionSpec("own_step", "Make it yours…", ("Y",), "Step", "outside text"),
    ActionSpec("retire_step", "Offer it no longer, or again", ("Ctrl+Alt+R",), "Step"),
    ActionSpec("bring_cards", "Bring in cards…", ("Ctrl+Alt+I",), "Step", separated=True),
    ActionSpec("write_cards", "Write cards out…", ("Ctrl+Alt+E",), "Step"),
    ActionSpec("meant", "It is meant so…", ("Z",), "Read", "outside text"),
    ActionSpec("style", "What the style asks for…", ("Ctrl+Alt+T",), "Read"),
    ActionSpec("beside", "Lay another part beside it…", ("Ctrl+Alt+B",), "Read"),
    ActionSpec("straighten", "Straighten what hangs over", ("Ctrl+Alt+S",), "Read", separated=True),
    ActionSpec("push", "Push it ahead of the beat", ("Ctrl+Alt+P",), "Read"),
    ActionSpec("delay", "Delay it after the beat", ("Ctrl+Alt+Y",), "Read"),
    ActionSpec("hear_clashes", "Hear what hangs over", ("Q",), "Read", "outside text", True),
    ActionSpec("hear_straight", "Hear it in turn with it straight", ("Shift+Q",), "Read", "outside text"),
    ActionSpec("hear_place", "Hear the place, and how it is mended", ("Shift+E",), "Read", "outside text"),
    ActionSpec("next_face", "Another face of the rhythm", ("G",), "Read", "outside text", True),
    ActionSpec("measured", "The face by something else", ("X",), "Read", "outside text"),
    ActionSpec("print_check", "Print the check…", ("Ctrl+Alt+O",), "Read", separated=True),
    ActionSpec("pdf_check", "Write the check as PDF…", ("Ctrl+Alt+F",), "Read"),
    ActionSpec("write_check", "Write the check out…", ("Ctrl+Alt+C",), "Read"),
    *(ActionSpec(f"{page.id}_page", page.title, page.keys, "View") for page in PAGES),
    ActionSpec("next_area", "Next area", ("F6",), "View", separated=True),
    ActionSpec("lamp", "Lamp out", ("F11",), "View"),
    ActionSpec("larger", "Larger text", ("Ctrl++", "Ctrl+="), "View"),
    ActionSpec("smaller", "Smaller text", ("Ctrl+-",), "View"),
    ActionSpec("help", "Keys, codes, cautions, licences", ("F1",), "Help"),
    ActionSpec("about", "About Firn", ("Shift+F1",), "Help"),
)  # fmt: skip

MENUS = ("Piece", "Edit", "Part", "Read", "Play", "Drill", "Take", "Log", "Step", "View", "Help")


def key_rows() -> list[tuple[str, str]]:
    """Keys and what they do, for the help."""
    rows = [(", ".join(spec.keys), spec.text.rstrip("…")) for spec in ACTIONS if spec.keys and spec.menu]
    rows.insert(0, ("Space, Ctrl+Space", "Dance or stop; Space alone works outside text"))
    rows += [
        ("Tab", "Take the word that is offered; ↓ and Enter for another, Esc for none"),
        ("Esc", "In the text: to the strip, where bare keys work; F6 or F9 comes back"),
        ("Alt+1 … Alt+9", "Take the mend of that number"),
        ("1 … 9", "Answer a question on Listen"),
        (
            "1, 2, 3",
            "While a drill is danced: clean, a slip, lost; 4 slower and back; ← → its stages; M listens along",
        ),
        ("Alt+← →, Delete, Enter", "On a drill's stage: move it, leave it out, dance from it"),
        (
            "Alt+↑ ↓, Alt+← →, F, T, H, C",
            "On a pass of the combo: once more or fewer, move it, the other side, turned; two counts held after it, "
            "or the feet changed; Insert, Delete, Enter",
        ),
        ("← →, Shift+← →", "On the strip: walk the sounds; select counts"),
        ("Alt+← →, Alt+Shift+← →", "On the strip: move the sound by half a count, or by a quarter; Alt and drag"),
        ("F, W, !, ~", "On the strip: the other foot; with weight or without; leaned on; softened"),
        ("Ctrl+A", "On the strip: pick the word, then its counts, its bar, its phrase, all"),
        ("J, /", "On the strip: join the sounds into a word that means them; split a word into its sounds"),
        ("Ctrl+C, Ctrl+X, Ctrl+V", "On the strip: copy, cut; put in from the count that is stood on, in any part"),
        (
            "Enter, Insert, Delete",
            "On the strip: another sound in its place; one more (with Alt before it); leave it out",
        ),
        ("← →, Enter, Esc", "On a finding of Read: its mends on the strip; the one on show taken; as it is written"),
        ("PgUp, PgDown", "Scroll the strip; where all of it is in sight, a page of large text"),
    ]
    return [row for row in rows if row[1] != "Dance or stop"]


def make_actions(window: QWidget, handlers: Mapping[str, Callable[[], object]]) -> dict[str, QAction]:
    """The actions of the table, each joined to its handler; raises KeyError for one that has none."""
    made = {}
    for spec in ACTIONS:
        action = QAction(spec.text, window)
        action.setObjectName(spec.id)
        action.setShortcuts([QKeySequence(k) for k in spec.keys])
        action.triggered.connect(lambda _=False, run=handlers[spec.id]: run())
        window.addAction(action)
        made[spec.id] = action
    return made


def enable_actions(actions: Mapping[str, QAction], *, text: bool, button: bool, page: str) -> None:
    """Leave bare keys to text that is typed in and Space to a button; what is done to a step is done on its page."""
    for spec in ACTIONS:
        if spec.when == "outside text" or spec.menu == "Step":
            off = (
                (text and spec.when == "outside text")
                or (button and spec.id == "dance_bare")
                or (spec.menu == "Step" and page != "Steps")
            )
            actions[spec.id].setEnabled(not off)


def tip(action_id: str) -> str:
    """What a button does, with its keys."""
    spec = next(s for s in ACTIONS if s.id == action_id)
    keys = ", ".join(spec.keys)
    return f"{spec.text.rstrip('…')} ({keys}{' outside text' if spec.when == 'outside text' else ''})"


def fill_menus(bar: QMenuBar, actions: Mapping[str, QAction]) -> dict[str, QMenu]:
    """The menus of the table."""
    menus = {name: bar.addMenu(f"&{name}" if name != "Part" else "P&art") for name in MENUS}
    menus["Play"].setTitle("Pla&y")
    # Alt+R turns to the page.
    menus["Read"].setTitle("Rea&d")
    menus["Log"].setTitle("L&og")
    menus["Drill"].setTitle("Dr&ill")
    for spec in ACTIONS:
        if spec.menu:
            if spec.separated:
                menus[spec.menu].addSeparator()
            menus[spec.menu].addAction(actions[spec.id])
    return menus
