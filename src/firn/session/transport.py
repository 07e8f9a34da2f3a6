"""How the desk dances: which stretch, how fast, after which count-in, on which side, with what, and then."""

from collections.abc import Sequence
from fractions import Fraction
from itertools import pairwise
from typing import Literal, TypeVar

from msgspec import Struct
from msgspec.structs import replace

from firn.core.meter.count_in import COUNT_INS, CountIn, Said
from firn.core.meter.tempo import FASTEST, SLOWEST
from firn.core.timeline.mixing import Mixing
from firn.core.timeline.timeline import Section
from firn.session.stretch import Stretch, cut_stretch, moved
from firn.session.view import HEARD, PLAIN, View, heard, layers_of

Side = Literal["as written", "other side", "both sides in turn"]
Voicing = Literal["counts and beats", "counts", "beats", "music", "steps alone"]
Then = Literal["stop", "again", "a rest of 4", "a rest of 8"]

SIDES: tuple[Side, ...] = ("as written", "other side", "both sides in turn")
LAYERS: tuple[Voicing, ...] = ("counts and beats", "counts", "beats", "music", "steps alone")
THENS: tuple[Then, ...] = ("again", "a rest of 4", "a rest of 8", "stop")
TEMPO_STEP = 2

_T = TypeVar("_T")


class Transport(Struct, frozen=True):
    """What the transport line says. `chosen`: a stretch from one count up to another, None for all."""

    tempo: float = 120.0
    count_in: CountIn = CountIn()
    side: Side = "as written"
    layers: Voicing = "counts and beats"
    then: Then = "again"
    chosen: tuple[Fraction, Fraction] | None = None

    def faster(self, steps: int) -> "Transport":
        """A step or more faster, or slower, within what can be danced."""
        tempo = min(FASTEST, max(SLOWEST, self.tempo + steps * TEMPO_STEP))
        return replace(self, tempo=float(tempo))

    def next_side(self) -> "Transport":
        return replace(self, side=_next(SIDES, self.side))

    def next_layers(self) -> "Transport":
        return replace(self, layers=_next(LAYERS, self.layers))

    def next_then(self) -> "Transport":
        return replace(self, then=_next(THENS, self.then))

    @property
    def loops(self) -> bool:
        return self.then != "stop"

    @property
    def mixing(self) -> Mixing:
        rest = {"a rest of 4": 4, "a rest of 8": 8}.get(self.then, 0)
        return Mixing(
            tempo=self.tempo,
            count_in=self.count_in,
            counts="counts" in self.layers,
            beats="beats" in self.layers,
            rest=rest,
            # Before the music begins nobody knows when: it is counted in.
            led_in=self.layers == "music",
            music=self.layers == "music",
        )


def _next(values: tuple[_T, ...], now: _T) -> _T:
    return values[(values.index(now) + 1) % len(values)] if now in values else values[0]


def next_count_in(now: CountIn) -> CountIn:
    """The usual count-in after this one."""
    return _next(COUNT_INS, now)


def danced(whole: Stretch, transport: Transport, view: View = PLAIN) -> Section:
    """What the transport dances of a stretch, of the layers that a view hears."""
    stretch = cut_stretch(whole, *transport.chosen) if transport.chosen else whole
    counts = stretch.counts
    sides = {"other side": (True,), "both sides in turn": (False, True)}.get(transport.side, (False,))
    sounds = [s for n, swapped in enumerate(sides) for s in moved(stretch, n * counts, swapped=swapped)]
    # What has a syllable for a sound is heard as such.
    given = [(stretch.sounds[i], text) for i, text in stretch.beside.syllables if text]
    syllables = [(sound.position, text) for sound, text in given if not sound.syllable]
    pulse = [stretch.counting.position(place) for place, _ in stretch.beside.pulse]
    passes = len(sides)
    return Section(
        heard(tuple(sounds), view),
        stretch.counting,
        stretch.first,
        stretch.end + counts * (passes - 1),
        replace(transport.mixing, swapped=view.mirrored),
        _again(syllables, counts, passes) if view.hears("scat") else (),
        tuple(p + counts * n for n in range(passes) for p in pulse) if view.hears("pulse") else (),
        sides,
    )


def _again(syllables: Sequence[tuple[Fraction, str]], counts: int, passes: int) -> tuple[tuple[Fraction, str], ...]:
    return tuple((place + counts * n, text) for n in range(passes) for place, text in syllables)


class Value(Struct, frozen=True):
    """One value of the transport line: its name, words, and key; words before it are joined by `lead`. `typed`: a
    number may be typed for it."""

    name: str
    lead: str
    text: str
    key: str
    typed: bool = False


def count_in_text(led: Sequence[Said]) -> str:
    """A count-in in words; a dash where a count lasts two."""
    words = [word for _, word in led]
    for i, ((one, _), (two, _)) in enumerate(pairwise(led)):
        words[i] += " –" if two - one > 1 else ""
    return " ".join(words)


def _layers_text(whole: Stretch, transport: Transport, view: View) -> str:
    """What is heard, in words: counts and beats, and where not all layers are heard, which."""
    here = [name for name in layers_of(whole) if name in HEARD]
    hears = [name for name in here if view.hears(name)]
    usual = [name for name in here if PLAIN.hears(name)]
    if hears == usual:
        return transport.layers
    return f"{transport.layers}; {' and '.join(hears) or 'no layer'}"


def spoken_line(title: str, whole: Stretch, transport: Transport, view: View = PLAIN) -> list[Value]:
    """The transport in one sentence, value by value."""
    counting = whole.counting
    first, end = transport.chosen or (whole.first, whole.end)
    stretch = f"{title} from {counting.number(first)} to {counting.number(end - 1)}"
    if whole.counts == 0:
        stretch = title
    plan = cut_stretch(whole, first, end) if transport.chosen else whole
    # Sounds stand in the order of their places, and so of where they sound.
    begins = min([s.position for s in plan.sounds[:1]] + [first])
    said = count_in_text(transport.count_in.said(begins, counting)) or "no count-in"
    return [
        Value("stretch", "", stretch, "L"),
        Value("tempo", "at", f"{transport.tempo:g}", "− + U"),
        Value("count_in", "after", said, "C"),
        Value("side", "", transport.side, "O"),
        Value("layers", "with", _layers_text(whole, transport, view), "V"),
        Value("then", "then", transport.then, "R"),
    ]
