"""How many keys a scripted typist needs for a sound, who takes the shortest name or the shortest completion."""

from benchmarks.report import figure, heading
from firn.core.piece.build import piece_from
from firn.core.script.complete import completions
from firn.core.steps.card import Card
from firn.core.steps.shelf import Shelf, shipped

FIGURES = (
    ("tap", ("flap", "flap", "shuffle ball change", "stamp"), ""),
    ("tap", ("single time step", "single time step"), "8"),
    ("tap", ("paradiddle", "paradiddle", "cramp roll", "shuffle hop step"), ""),
    ("tap", ("maxi ford", "buffalo", "waltz clog"), ""),
    ("clogging", ("double step", "rock step", "double step", "rock step"), ""),
    ("clogging", ("double step", "double step", "double step", "rock step"), ""),
    ("clogging", ("chain", "clogging triple"), ""),
    ("swing", ("rock step", "triple step", "triple step"), ""),
    ("solo jazz", ("kick ball change", "kick ball change", "jazz square"), ""),
    ("step dance", ("threes", "threes", "sevens"), ""),
    ("latin", ("cha-cha basic", "chasse"), ""),
    ("house", ("step back cross", "step back cross", "farmer"), ""),
    ("folk stamping", ("zapateado of three", "redoble", "remate"), ""),
)
"""Lines of figures, each with its tradition and the count it begins on; common practice, no source."""

SINGLES = (
    ("tap", ("step", "heel", "step", "heel"), ""),
    ("tap", ("brush", "spank", "step", "stamp"), ""),
    ("folk stamping", ("stamp", "stamp", "heel", "stamp"), ""),
    ("swing", ("step", "touch", "step", "touch"), ""),
    ("latin", ("step", "step", "step", "hold"), ""),
    ("clogging", ("stomp", "stomp", "step", "step"), ""),
    ("house", ("kick", "step", "kick", "step"), ""),
    ("step dance", ("hop", "step", "hop", "step"), ""),
)
"""Lines of single sounds."""


def keys_for(card: Card, shelf: Shelf, tradition: str, used: list[Card], *, last: bool) -> int:
    """The fewest keys that write a card's word and, unless it is the last, the space after it: a name whole and the
    space, or its beginning, arrows down its offers, and Tab, which writes the space too."""
    names = [n for n in (card.name, *card.aliases) if shelf.find(n, tradition) is card]
    fewest = min(len(name) for name in names) + (not last)
    for name in names:
        for letters in range(2, len(name)):
            offered = completions(name[:letters], shelf, tradition, used)
            at = next((n for n, offer in enumerate(offered) if offer.card is card), None)
            if at is not None:
                fewest = min(fewest, letters + at + 1)
    return fewest


def typed(tradition: str, words: tuple[str, ...], count: str) -> tuple[int, int]:
    """The keys for a line, spaces between its words included, and the sounds that it has."""
    shelf = shipped()
    text = " ".join(([count] if count else []) + list(words))
    part = piece_from(f"tradition: {tradition}\npart A\n{text}").parts[0]
    assert not part.problems, text
    cards = [shelf.find(word, tradition) for word in words]
    known = [card for card in cards if card is not None]
    last = len(known) - 1
    keys = sum(keys_for(card, shelf, tradition, known[:n], last=n == last) for n, card in enumerate(known))
    return keys + (len(count) + 1 if count else 0), sum(s.kind != "hold" for s in part.sounds)


def keystrokes() -> None:
    """Keys a sound, for lines of figures and for lines of single sounds."""
    heading("Keys a sound, by the shortest name or completion")
    for name, lines, most in (("lines of figures", FIGURES, "1.6"), ("lines of single sounds", SINGLES, "3")):
        found = [typed(*line) for line in lines]
        keys, sounds = (sum(column) for column in zip(*found, strict=True))
        figure(name, f"{keys / sounds:.2f}", f"{most} at most")
