"""Texts of the step script from its grammar, with what breaks it, and all that Firn makes of a text."""

import random
from collections.abc import Callable
from fractions import Fraction

from firn.core.book.book import Book, new_piece, piece_of_script
from firn.core.piece.build import piece_from
from firn.core.piece.piece import Piece
from firn.core.piece.unfold import Unfolded, unfold
from firn.core.reading.read import check
from firn.core.reading.sentences import label, sentence
from firn.core.score.midi import write_midi
from firn.core.score.musicxml import write_musicxml
from firn.core.steps.shelf import shipped
from firn.errors import FirnError
from firn.session.building import built
from firn.session.cue_sheet import cue_paper
from firn.session.drill_text import drills_of_script, steps_text
from firn.session.elsewhere import brought, parts_elsewhere
from firn.session.ledger import ledger
from firn.session.notes import combo_notes, part_notes
from firn.session.paper import paper
from firn.session.report import findings_data, measures_data, sounds_data
from firn.session.scores import score_of
from firn.session.stretch import combo_stretch, part_stretch
from firn.session.transport import Transport, danced, spoken_line
from firn.session.view import PLAIN

WORDS = [name for card in shipped().cards for name in (card.name, *card.aliases)]
FIGURES = ("Turnover", "Slow Gate")
"""Parts that are words in others."""
PLACES = (
    "1",
    "2",
    "3",
    "4",
    "5",
    "6",
    "7",
    "8",
    "&",
    "a",
    "e",
    "&a",
    "e&a",
    "&1",
    "a2",
    "1e&a",
    "2+1/3",
    "6-7",
    "1-4",
    "12",
)
SIGNS = (
    "R",
    "L",
    "both",
    "!",
    "~",
    "x2",
    "x4",
    "x64",
    "+",
    "=",
    "|",
    "or",
    "1/4 right",
    "turn half left",
    ",",
    ".",
    ":",
    "and",
    "then",
    "on",
    "the",
    "twice",
    "three times",
    "six",
    "dos",
    "right",
    "left foot",
    "together",
    "side",
    "in front",
    "1n2",
    "1+2",
    "RLRL",
    "R-L",
    "(R)",
    "(L R L)",
    "D",
    "I",
    "[1]",
    "(2, 4)",
    "3x",
    "S",
    "QQS",
    "(S)",
    "slow",
    "quick",
    "fwd",
    "starting left",
    "step-kick",
    "ds-rs",
    "hop step, hop step",
    "paradiddle:",
    "twice:",
    "one",
    "two",
    "->",
    "recover",
    "start with a",
    "you",
    "to finish",
    "on both sides",
    "a ambos lados",
    "2 3",
    "2 3 tap",
    "1 + 2 +",
    "tri-ple-step",
    "going forward",
    "soft shoe:",
    "chain left:",
    "2x(",
    "qqs:",
    "→",
    "“",
    "1 rock 2",
    "count is",
    "ready,",
    "5 6 ready go,",
    "last one:",
    "um",
    "you know",
    "to",
    "for",
    "won",
    "heal",
    "bowl change",
    ", no,",
    "scratch that",
    "not",
    "three and four",
    "1: step 2: clap",
    "clap: 2, 4; stamp: 1, 3",
    "= 1",
    "\nL R L RL\n",
    "\nfeet: L R\n",
    "\nleft foot leads\n",
    "\n5-8 repeat\n",
    "\n1. ",
    "\n2. ",
    "\n| a | R |",
    "\tstep\t",
    "\ncount | step\n",
    "x2 +",
    "(x3)",
    "- -",
    "step + clap + step",
    "same without the",
    "again, no",
    "instead of",
    "for the",
    "same but end with a",
    "and again",
    "silence on 4:",
    "rest on 2,",
    "and left,",
    "and back,",
    "triple now,",
    "triple,",
    ", last one a",
    ", the last",
    "turn left in 4",
    "on 1 2 3",
    "2 flaps 4 steps",
    "DSDSRS",
    "DSRSXX",
    "DS/RS/DS",
    "step/2",
    "L-step",
    "“",
    "”",
    '"',
    "{",
    "}",
    "x2",
    "one more triple:",
    "right left right clap",
    "R L R hold",
    "clap right",
    "back rock",
    "side kick",
    "front cross",
    "triple clap",
    "single",
    "1 2 3 4 5 6 basic",
    "one, two, three, clap",
    "1, 3, clap",
    "2 shuffle 3",
    " . ",
    "stamp: 1, 3",
    "(4)",
    "(4 counts)",
    "first eight:",
    ", twice,",
    "- twice",
    "for two counts",
    "jump out, in,",
    "double time:",
    "2 x",
    "now left",
    "and one",
    "lead left,",
    "stamps:",
    "hold 3",
    "hold 4 5",
    "1 2 3 hold 4",
    "R L R stamp",
    "right left together",
    "2 3 cha cha cha",
    "one two three stamp",
    "turn left:",
    "last one a",
    "1 with the left",
    "right back rock",
    "wait 8",
    "8 counts rest",
    "again",
    "left A",
    "two As",
    "first A",
    "A + B",
    "A on the right then on the left",
    "end with A",
    "group 1: A, group 2: B",
)
ODD = (
    "(",
    ")",
    "((",
    "))",
    "x0",
    "x99999999",
    "9" * 400,
    "1/0",
    "1/9999999999",
    "\u202e",
    "\x00",
    "\ufeff",
    "𝟚",
    "ß" * 50,
    "\t" * 40,
    "&" * 60,
    "٣",
    "½",
    "-",
    "–",
    "''",
    "/" * 30,
    "1+1+1",
    "3+7/5",
    "8-1",
    "0",
    "00",
    "1e99",
    "∞",
    "1+1/" + "9" * 5_000,
    "twice: " * 400,
    "flap: " * 400,
    "step-" * 400 + "step",
)
AGAIN = (
    "again",
    "again x2",
    "again x64",
    "other side",
    "same but 3 step",
    "again but",
    "same again x3 but 7 stamp",
    "on the other side x2",
)
LAYERS = (
    "claims: touches on odd, changes sides, front after 4, 9 sounds",
    "claims: " + "x, " * 200,
    "always: right",
    "always: up",
    "count in: 5 6 7 8",
    "pulse: down on the count, up on the &",
    "bar 2: 1 step  2 step",
    "hands: 2 clap 4 clap",
    "arms: 1-4 up",
    "arms: 1 9999x",
    "pulse: down",
    "pulse: up on the &",
    "pulse: down on 2 4",
    "scat: da doo-da -",
    "scat: 1 da & da-dum 2 -",
    "scat: 1 2 3 da a a 7+1/3 dum!",
    "hand scat: ta - ka",
    "note: keep tall",
    "signal: here it comes, 2 ahead",
    "meter: 3/4",
    "meter: 5/8 as 2+3",
    "phrase: 12",
    "length: 6",
    "meant: hangs, so",
    "body: lean",
    "sounds: x",
)
HEADS = (
    "meter: 4/4",
    "meter: 3/4",
    "meter: 6/8",
    "meter: 7/8 as 2+2+3",
    "meter: 12/8",
    "meter: 2/2",
    "meter: 32/16",
    "feel: swing",
    "feel: 3:2",
    "feel: 999:998",
    "feel: 1:1",
    "lone a: triplet",
    "phrase: 64",
    "phrase: 1 count",
    "phrase: 7 bars",
    "tempo: 20",
    "tempo: 400",
    "lead: left",
    "tradition: clogging",
    "tradition: flatfoot",
    "count in: then all",
    "count in: 2 bars",
    "tally: yes",
    "words: stamp is stomp",
    "sides: standing foot",
    "handed: left",
)
COMBO = (
    "A",
    "B",
    "A x3",
    "B x64",
    "( A, B ) x64",
    "( ( A x64 ) x64 ) x64",
    "other side",
    "last time ends: & touch",
    "2nd time ends: 1 step",
    "turn 1/4 right",
    "A, B other side",
    "[step, hold]",
    "[hold x2] x3",
    "[zzqx]",
    "[",
    "]",
    "Verse",
    "Verse x2",
    "2x Coda",
    "Coda, other side",
    "ends: " + "(" * 50,
    "right",
    "as written",
    "and",
    "then A",
    "C x2",
    "3x A",
    "A twice",
    "Turnover",
    "B three times",
    "third time ends with & touch",
    "begins: 3 step",
    "first time begins: & touch",
    "enters with 7+1/2 step 2 hold",
    "end with 4 touch",
    "ends: " + "1 step " * 300,
)

FLOOR = (
    "formation: two lines facing each other",
    "formation: circle of 12 couples facing the line of dance",
    "formation: 99999 staggered rows of 99999",
    "formation: wedge of 0",
    "floor: half circle of 1, back to back",
    "formation: " + "line of " * 300,
)
SHARE_SHORT = 0.85
SHORT = tuple(item for item in COMBO if "x64" not in item and len(item) < 60)


def line(rng: random.Random, longest: int = 12) -> str:
    """A line of steps: mostly sense, some of it not."""
    if rng.random() < 0.12:
        return rng.choice(AGAIN)
    if rng.random() < 0.12:
        return rng.choice(LAYERS)
    bits = []
    for _ in range(rng.randint(1, longest)):
        of = rng.choices((PLACES, WORDS, SIGNS, ODD, FIGURES), (40, 45, 10, 4, 3))[0]
        bits.append(rng.choice(of))
    if rng.random() < 0.12:
        at = rng.randrange(len(bits) + 1)
        bits[at:at] = ["("]
        bits += [")", rng.choice(("x2", "x8", "x64", ""))]
    said = rng.choice((" ", "  ", " ", ", ")).join(bits)
    return said + rng.choice(("", "", "", "  # a note", "   "))


def text(rng: random.Random) -> str:
    """A piece: most have a line or two, which are read in no time, and so many more are tried."""
    return short(rng) if rng.random() < SHARE_SHORT else long(rng)


def short(rng: random.Random) -> str:
    """A part of a line or two, now and then under a heading or with a combo."""
    lines = [rng.choice(HEADS)] if rng.random() < 0.4 else []
    lines += ["part A", *(line(rng, 6) for _ in range(rng.choice((1, 1, 2))))]
    if rng.random() < 0.2:
        lines += ["combo", combo_item(rng)]
    made = "\n".join(lines)
    return mangled(rng, made) if rng.random() < 0.15 else made


def long(rng: random.Random) -> str:
    """A whole piece."""
    lines = [rng.choice(HEADS) for _ in range(rng.randint(0, 4))]
    for name in rng.sample(["A", "B", "Part 2", "x3", *FIGURES], rng.randint(1, 4)):
        lines += ["", f"part {name}"]
        lines += [line(rng) for _ in range(rng.choice((1, 2, 3, 8)))]
    if rng.random() < 0.6:
        lines += [
            "",
            "combo",
            *(
                rng.choice(
                    (
                        "",
                        "",
                        "4 rows, 8 apart: ",
                        "mixed rows: ",
                        "rows in turn: ",
                        "group 1: ",
                        "group 2, after 8: ",
                        "row 2: ",
                        "group 3, together: ",
                        "all: ",
                        "section Verse: ",
                        "section Coda: ",
                        "lead: ",
                        "follow: ",
                        "follow, after 2: ",
                        "follow: mirrored\n",
                        *(f"{said}\n" for said in (*FLOOR, *OVER)),
                    )
                )
                + ", ".join(combo_item(rng) for _ in range(rng.randint(1, 4)))
                for _ in range(rng.randint(1, 4))
            ),
        ]
    if rng.random() < 0.2:
        lines += ["", rng.choice(DRILLS)]
    made = "\n".join(lines)
    if rng.random() < 0.15:
        made = mangled(rng, made)
    if rng.random() < 0.02:
        made = monstrous(rng)
    return made


OVER = (
    "hands, every 4: 2 clap 4 clap", "hands: & clap 1-4 roll x3", "arms: 1-8 up 1-8 down", "hands, every 0: 1 jump",
    "left hand every 1: & pat & a pat", "signals, every 3: 1 go 2 ahead", "body every 256: ( 1 lean ) x3",
)  # fmt: skip
"""Lines that go on over the parts of a combo."""

DRILLS = (
    "drill Monday: A 72-96 by 4 both sides x2; Part 2 run-in 4; whole x1",
    "drill:\nA + B (the hardest bit)\nwhole at 999999\nx3 counts 2-1\nA run-in 0 from A",
    "drill A: A; A; A; A (nothing), with gaps, rest 99",
)


def combo_item(rng: random.Random) -> str:
    """An item of a combo; the long ones now and then."""
    return rng.choice(COMBO if rng.random() < 0.08 else SHORT)


def mangled(rng: random.Random, said: str) -> str:
    """A text with letters left out, doubled or exchanged."""
    letters = list(said)
    for _ in range(rng.randint(1, 12)):
        at = rng.randrange(len(letters)) if letters else 0
        way = rng.randrange(3)
        if way == 0 and letters:
            del letters[at]
        elif way == 1:
            letters.insert(at, chr(rng.choice((rng.randrange(1, 127), rng.randrange(128, 0x3000)))))
        elif letters:
            other = rng.randrange(len(letters))
            letters[at], letters[other] = letters[other], letters[at]
    return "".join(letters)


def monstrous(rng: random.Random) -> str:
    """One thing very many times."""
    many = rng.choice((2_000, 5_000, 50_000))
    one = rng.choice(
        (
            "(",
            ")",
            " ",
            "9",
            "x64 ",
            "1 step ",
            "( step ) x2 ",
            "1/3 ",
            "&",
            "a",
            "-",
            "+1/7",
            "again x64\n",
            "step, ",
            "no ",
            "to ",
            "step + ",
            "step: 1 ",
            "R ",
            "! ",
            "\n",
            "# ",
        )
    )
    head = rng.choice(
        (
            "",
            "part A\n",
            "part A\n1 step\n",
            "part A\n1 step\ncombo\n",
            "part A\narms: 1 ",
            "part A\nscat: ",
            "meter: ",
            "words: ",
        )
    )
    return head + one * (many // max(1, len(one) // 4)) + rng.choice(("", "x", " step", ")"))


def given(piece: Piece, whole: Unfolded) -> None:
    """What leaves: a cue sheet, scores, and a backing; what cannot be is said."""
    try:
        cue_paper(piece)
        score = score_of(piece, None if whole.sounds else next(p for p in piece.parts if p.sounds))
        if len(score.sounds) < 400:
            write_musicxml(score)
            write_midi(score)
    except FirnError:
        return


def read(said: str) -> Callable[[], object]:
    """All that Firn makes of a text, without sound and window."""

    def run() -> None:
        piece = piece_from(said)
        sounds_data(piece)
        findings = check(piece)
        findings_data(piece, findings)
        for finding in findings:
            sentence(finding)
            for mend in finding.mends:
                label(mend)
        for number, part in enumerate(piece.parts):
            if not number:
                part_notes(part)
            stretch = part_stretch(part)
            spoken_line(part.name, stretch, Transport(), PLAIN)
            if stretch.sounds:
                danced(stretch, Transport(side="both sides in turn"))
                paper(piece.settings, part.name, stretch, part.script.text, ())
        if len(said) % 4 == 0:
            measures_data(piece)
        if len(said) % 8 == 0:
            kept = piece_of_script(said, [str(n) for n in range(said.count("\n") + 3)])
            drills, _ = drills_of_script(said, kept, shipped())
            drills_of_script(steps_text(kept, drills), kept, shipped())
            for one in parts_elsewhere(Book(pieces=(kept,)))[:2]:
                brought(one, new_piece("here", "a", "Here"), shipped())

        whole = unfold(piece)
        if len(said) % 8 == 1 and any(part.sounds for part in piece.parts):
            given(piece, whole)
        combo_notes(piece, whole, piece.combo_line or 0)
        ledger(piece, whole)
        combo_stretch(piece, whole)
        built(piece, whole, 120.0)
        if any(s.position < Fraction(-10_000) for s in whole.sounds):
            raise AssertionError("a combo that begins before its beginning")

    return run
