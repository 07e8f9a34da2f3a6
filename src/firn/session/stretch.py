"""Stretches: the sounds of a part or of a combo in their places, with all that is said beside them."""

from bisect import bisect_left
from fractions import Fraction
from operator import itemgetter

from msgspec import Struct
from msgspec.structs import replace

from firn.core.meter.counting import Counting
from firn.core.piece.piece import Part, Piece
from firn.core.piece.sound import Sound, other_side
from firn.core.piece.unfold import Unfolded
from firn.core.reading.syncopation import Hang, part_hangs
from firn.core.reading.walls import facings
from firn.core.same import begins_alike
from firn.core.script.layers import Cue, PulseWay, words_across
from firn.core.script.turns import turn_text
from firn.core.steps.card import Card
from firn.core.task import give_way


class Beside(Struct, frozen=True):
    """What goes on beside the sounds.

    `cues`: what is done in silence; `pulse`: where the standing leg goes down or up; `syllables`: (index of a sound,
    its syllable).
    """

    cues: tuple[Cue, ...] = ()
    pulse: tuple[tuple[Fraction, PulseWay], ...] = ()
    syllables: tuple[tuple[int, str], ...] = ()

    def across(self) -> "Beside":
        """As on the other side: what is said of left and right is said of the other."""
        return replace(self, cues=tuple(replace(c, text=words_across(c.text)) for c in self.cues))

    def __add__(self, other: "Beside") -> "Beside":
        return Beside(self.cues + other.cues, self.pulse + other.pulse, self.syllables + other.syllables)


NOTHING = Beside()

HANDS = {"left": "left hand, ", "right": "right hand, ", "both": "both hands, ", "either": "one hand, "}
REASONS = {
    "written": "as written",
    "lead": "the lead foot",
    "card": "as the step goes",
    "free": "the free foot",
    "carries": "the foot that carries",
    "choice": "either could",
}
"""Why a sound is on its foot, by `Sound.reason`."""
WEIGHTS = {"both": "weight on both", "air": "in the air", "seat": "seated"}


class Stretch(Struct, frozen=True):
    """Sounds to show or dance, in place, from the first count to the one after the last.

    `words` are shown over the sounds: (index of the word's first sound, text); `titles` where a part of a combo
    begins: (its first count, its name and which time it is). `hangs`: sounds over a silent stronger beat.
    """

    title: str
    sounds: tuple[Sound, ...]
    words: tuple[tuple[int, str], ...]
    counting: Counting
    first: Fraction
    end: Fraction
    titles: tuple[tuple[Fraction, str], ...] = ()
    hangs: tuple[Hang, ...] = ()
    beside: Beside = NOTHING

    @property
    def counts(self) -> int:
        return int(self.end - self.first)


def part_stretch(part: Part, *, swapped: bool = False) -> Stretch:
    """A part to show or dance; `swapped` on the other side."""
    sounds = mirrored(part).sounds if swapped else part.sounds
    first = part.first_count if part.sounds else Fraction(0)
    # Sounds that only lead up to a count need one to lead up to.
    end = max(part.last_count, first) + 1 if part.sounds else Fraction(part.settings.counting.phrase)
    hangs = tuple(part_hangs(part))
    beside = _beside(part, 0, Fraction(0), first, end, swapped=swapped)
    return Stretch(part.name, sounds, _words(part, 0), part.settings.counting, first, end, hangs=hangs, beside=beside)


def _beside(
    part: Part, base: int, offset: Fraction, first: Fraction, end: Fraction, *, swapped: bool = False
) -> Beside:
    """What is beside a part, so many sounds and counts later, on the other side if `swapped`."""
    if not part.layers and not part.order.layered:
        return NOTHING
    cues = tuple(replace(c, place=c.place + offset) for c in part.layers.cues)
    pulse = part.layers.pulse
    marks = tuple((p + offset, way) for p, way in pulse.within(first, end)) if pulse else ()
    # A rhythm that has no steps yet has its syllables for words.
    said = ((i, text) for i, text in part.syllables.items() if part.sounds[i].layer or not part.sounds[i].syllable)
    beside = Beside(cues, marks, tuple((base + i, text) for i, text in said))
    return beside.across() if swapped else beside


def mirrored(part: Part) -> Part:
    """A part as it is danced on the other side."""
    return replace(part, sounds=tuple(other_side(s) for s in part.sounds))


def across(stretch: Stretch) -> Stretch:
    """A stretch on the other side."""
    return replace(stretch, sounds=tuple(other_side(s) for s in stretch.sounds), beside=stretch.beside.across())


def moved(stretch: Stretch, counts: int, *, swapped: bool = False) -> tuple[Sound, ...]:
    """A stretch's sounds so many counts later, on the other side if `swapped`."""
    if not counts and not swapped:
        return tuple(stretch.sounds)
    sounds = (other_side(s) if swapped else s for s in stretch.sounds)
    return tuple(replace(s, place=s.place + counts, position=s.position + counts) for s in sounds)


def _words(part: Part, base: int, *, swapped: bool = False) -> tuple[tuple[int, str], ...]:
    """What is shown over the sounds: of each word its first sound, so many sounds later, and its text."""
    if base or swapped:
        return _named(part, 0, base, swapped=swapped)
    global _shown
    known, words = _shown if _shown is not None else (part, ())
    firsts, same = part.order.firsts, 0
    if words and part.settings == known.settings and part.script.shelf is known.script.shelf:
        # A word is shown at its first sound: it is the same where the word and that sound are.
        alike = begins_alike(known.uses, part.uses)
        same = begins_alike(known.order.firsts, firsts)
        # Asked of all at once: one by one takes longer than all else.
        changed = bytes(map(alike.__le__, map(itemgetter(1), firsts[:same]))).find(True)
        same = changed if changed >= 0 else same
    shown = words[: bisect_left(words, (firsts[same - 1][0] + 1,))] if same else ()
    _shown = part, (*shown, *_named(part, same, 0))
    return _shown[1]


_shown: tuple[Part, tuple[tuple[int, str], ...]] | None = None
"""The part last shown and the words over it: a keystroke changes few."""


def _named(part: Part, first: int, base: int, *, swapped: bool = False) -> tuple[tuple[int, str], ...]:
    words: list[tuple[int, str]] = []
    means: dict[Card, bool] = {}
    uses, tradition = part.uses, part.settings.tradition
    for index, number in part.order.firsts[first:]:
        give_way()
        use = uses[number]
        if use.layer:
            continue
        card, word = use.card, use.word.mirrored() if swapped else use.word
        if card not in means:
            means[card] = part.script.shelf.find(card.name, tradition) is card
        # In her own word where the card's name means something else to her.
        name = "" if card.name == "hold" else card.name if means[card] else word.text
        if word.others:
            name += "".join(f" or {other.name}" for other in word.others)
        if word.where:
            name = f"{name} {word.where}"
        words.append((base + index, f"{name} {turn_text(word.turn)}".strip() if word.turn else name))
    return tuple(words)


def combo_stretch(piece: Piece, whole: Unfolded) -> Stretch:
    """The combo to show or dance."""
    words: list[tuple[int, str]] = []
    base = 0
    beside = NOTHING
    for one in whole.passes:
        words += _words(one.part, base, swapped=one.swapped)
        first, last = one.part.first_count, one.part.last_count
        beside += _beside(one.part, base, one.offset, first, last + 1, swapped=one.swapped)
        base += len(one.sounds)
    counting = whole.counting
    if not whole.passes:
        return Stretch("combo", (), (), counting, Fraction(0), Fraction(counting.phrase))
    first = whole.passes[0].offset + whole.passes[0].part.first_count
    sounds = tuple(replace(s, use=i) for i, s in enumerate(whole.sounds))
    titles = []
    way = "front"
    for one, (_, after) in zip(whole.passes, facings(whole), strict=True):
        name = one.part.name if not one.time else f"{one.part.name} {one.time + 1}"
        titles.append((one.offset + one.part.first_count, name if way == "front" else f"{name}, facing the {way}"))
        way = after
    end = first + whole.counts
    return Stretch("combo", sounds, tuple(words), counting, first, end, tuple(titles), beside=beside)


SOFT, LEANED = -2, 1


def leaned_on(stretch: Stretch) -> Stretch:
    """A stretch with what hangs over leaned on and all else soft."""
    hanging = {h.place for h in stretch.hangs}
    sounds = tuple(replace(s, level=LEANED if s.place in hanging and not s.layer else SOFT) for s in stretch.sounds)
    return replace(stretch, sounds=sounds)


def with_sound(stretch: Stretch, index: int) -> list[str]:
    """What goes with a sound in words: its syllable, and the cues that are given on it."""
    beside, place = stretch.beside, stretch.sounds[index].place
    said = [f"sung {text}" for i, text in beside.syllables if i == index and text]
    return [*said, *(f"{c.layer}: {c.text}" for c in beside.cues if c.given == place)]


def described(stretch: Stretch, index: int) -> str:
    """A sound in words: its count, foot, kind, word, why that foot, the weight after it, and what goes with it."""
    sound = stretch.sounds[index]
    word = next((t for i, t in reversed(stretch.words) if i <= index), "")
    foot = f"{sound.foot} " if sound.foot else HANDS.get(sound.hand, "")
    kinds = ({"flat": "stamp"}.get(k, k.replace("_", " ")) for k in (sound.kind, *sound.others))
    kind = " or ".join(kinds)
    weight = WEIGHTS.get(sound.weight, f"weight {sound.weight}")
    of = f" of {word}" if word and word != kind and not sound.layer else ""
    why = f" ({REASONS[sound.reason]})" if sound.reason else ""
    optional = ", may be left out" if sound.optional else ""
    voiced = "voiced " if sound.voiced else ""
    beside = "".join(f", {text}" for text in with_sound(stretch, index))
    return f"{stretch.counting.name(sound.place)}: {foot}{voiced}{kind}{of}{why}{optional}, {weight}{beside}"


def grown(stretch: Stretch, picked: range) -> range:
    """The next larger selection: the whole words of some sounds, their counts, bars, phrases, all."""
    sounds, counting = stretch.sounds, stretch.counting
    uses = {sounds[i].use for i in picked}
    tries = [[i for i, s in enumerate(sounds) if s.use in uses]]
    counting, _ = counting.here(sounds[picked[0]].place)
    for size in (1, counting.meter.counts, counting.phrase):
        cells = {sounds[i].place // size for i in picked}
        tries.append([i for i, s in enumerate(sounds) if s.place // size in cells])
    for inside in tries:
        found = range(inside[0], inside[-1] + 1)
        if len(found) > len(picked):
            return found
    return range(len(sounds))


def cut_stretch(stretch: Stretch, first: Fraction, end: Fraction) -> Stretch:
    """The part of a stretch from one count up to another, pick-ups into it included."""
    before = Fraction(1, 1)
    kept: list[Sound] = []
    index_of: dict[int, int] = {}
    for index, sound in enumerate(stretch.sounds):
        inside = first <= sound.place < end
        leads = (
            first - before < sound.place < first and sound.place.denominator != 1 and _leads(stretch, index, first)
        )
        if inside or leads:
            index_of[index] = len(kept)
            kept.append(sound)
    words, syllables = (
        tuple((index_of[i], text) for i, text in texts if i in index_of)
        for texts in (stretch.words, stretch.beside.syllables)
    )
    cues = tuple(c for c in stretch.beside.cues if first <= c.place < end)
    pulse = tuple(p for p in stretch.beside.pulse if first <= p[0] < end)
    beside = Beside(cues, pulse, syllables)
    return replace(stretch, sounds=tuple(kept), words=words, first=first, end=end, beside=beside)


ROUND_ABOUT = 2


def around(stretch: Stretch, count: Fraction) -> Stretch:
    """A count with the two before and after it, as far as the stretch goes."""
    first, end = max(stretch.first, count - ROUND_ABOUT), min(stretch.end, count + ROUND_ABOUT + 1)
    return cut_stretch(stretch, first, max(end, first + 1))


def _leads(stretch: Stretch, index: int, first: Fraction) -> bool:
    """Whether a sound before `first` belongs to a word that goes on inside."""
    use = stretch.sounds[index].use
    return any(s.use == use and s.place >= first for s in stretch.sounds[index : index + 8])
