"""Stages that fit a part, each with the reason for it: names are settings of the six values of a stage.

How practice is built up is common practice, no source.
"""

from collections.abc import Callable, Iterator, Mapping
from fractions import Fraction

from msgspec import Struct
from msgspec.structs import replace

from firn.core.drills.ladder import tempo_bounds
from firn.core.drills.stage import COMBO, ROUND, Stage, StageHeard, StageKind, StageSides
from firn.core.meter.tempo import FASTEST, SLOWEST
from firn.core.piece.levels import simpler
from firn.core.piece.piece import Part, Piece
from firn.core.piece.versions import VersionError
from firn.core.reading.density import heard_moments, most_in_a_count, shortest_gap

SLOWLY = 0.7
"""The share of the full tempo at which a part is begun where nothing is known of it."""

WARM = 0.8
"""The share of a clean tempo at which it is danced to warm up."""

ABOUT = 1
"""Counts before and after the hardest one that are danced with it."""

LEAD_IN = 4

ARMS = ("arms", "body")
"""Layers of cues that are danced without the feet."""

ROWS = 3
"""Rows of a class, where nothing is said."""

MOST_GROWN = 4
"""Stages in which a part grows to its whole length."""

LEAST_ADDED, MOST_ADDED = 3, 9
"""Sounds of a part that is begun with two of them: of more, what is added is lost among them."""

LEAST_ASKED = 3
"""Sounds of a part that is asked about by ear."""


class Asked(Struct, frozen=True):
    """What stages are offered for: a part of a piece, the ids of its parts by name, the full tempo, and the tempos at
    which the part is clean in the log, by side. `home`: the id of another part that is clean at its tempo, "" for
    none."""

    piece: Piece
    part: Part
    ids: Mapping[str, str]
    tempo: float
    clean: tuple[tuple[str, float], ...] = ()
    home: str = ""

    @property
    def id(self) -> str:
        """The part's id."""
        return self.ids[self.part.name]

    @property
    def known(self) -> float:
        """The tempo at which it is clean on every side that was danced; 0 where nothing is known."""
        return min((tempo for _, tempo in self.clean), default=0.0)

    @property
    def slow(self) -> float:
        """Where practice begins: where it is clean, else slowly, within the floor of its steps."""
        floor, ceiling = tempo_bounds(self.part)
        wanted = min(self.known, self.tempo) or round(self.tempo * SLOWLY / 2) * 2
        return float(min(max(wanted, floor), ceiling))


class Offer(Struct, frozen=True):
    """A stage that fits, and why; `more`: those that go on from it."""

    stage: Stage
    why: str
    more: tuple[Stage, ...] = ()

    @property
    def stages(self) -> tuple[Stage, ...]:
        """All that is put in, each with the reason."""
        return tuple(replace(stage, why=self.why) for stage in (self.stage, *self.more))


def _warm_up(asked: Asked) -> Iterator[Offer]:
    if asked.known:
        floor, _ = tempo_bounds(asked.part)
        slow = float(max(floor, round(asked.known * WARM / 2) * 2))
        why = f"To warm up: clean at {asked.known:g}, danced at {slow:g}."
        yield Offer(Stage("warm_up", (asked.id,), None, slow, slow), why)


def _slow_full(asked: Asked) -> Iterator[Offer]:
    slow = min(asked.slow, round(asked.tempo * SLOWLY / 2) * 2)
    if slow < asked.tempo:
        why = f"Slowly at {slow:g} it can be listened to; at {asked.tempo:g} it is what it is to be."
        step = asked.tempo - slow
        yield Offer(Stage("slow_full", (asked.id,), start=slow, end=asked.tempo, step=step, times=2), why)


def _ladder(asked: Asked) -> Iterator[Offer]:
    start = asked.slow
    if not asked.known:
        why = f"Nothing is in the log yet: from {start:g}, up by 4 while it is clean."
    elif asked.known < asked.tempo:
        why = f"Clean at {asked.known:g} on every side so far, and the piece goes at {asked.tempo:g}."
    else:
        return
    yield Offer(Stage("ladder", (asked.id,), start=start, end=max(start, asked.tempo), step=4, times=1), why)


def _hardest(asked: Asked) -> Iterator[Offer]:
    part, counting = asked.part, asked.part.settings.counting
    moments = heard_moments(part)
    gaps = [(gap, foot) for foot in ("left", "right") if (gap := shortest_gap(part, foot)) is not None]
    if part.counts <= 2 * ABOUT + 1 or not gaps:
        return
    gap, foot = min(gaps, key=lambda found: (found[0].counts, found[0].first))
    if gap.counts < 1:
        place, last = part.sounds[gap.first].place, part.sounds[gap.second].place
        said = (
            f"The {foot} foot has {gap.ms(asked.tempo):.0f} ms from {counting.name(place)} to {counting.name(last)}."
        )
    else:
        many, place = most_in_a_count(part, moments)
        last = place
        if many < 2:
            return
        said = f"{many} sounds in one count from {counting.name(place)} on: the most there are."
    first = max(int(part.first_count), int(place // 1) - ABOUT)
    end = min(int(part.last_count) + 1, int(last // 1) + 1 + ABOUT)
    slow = min(asked.slow, asked.tempo)
    step = max(4.0, round((asked.tempo - slow) / 3))
    stage = Stage("hardest", (asked.id,), (first, end), slow, asked.tempo, step, times=2)
    yield Offer(stage, said)


def _weaker(asked: Asked) -> Iterator[Offer]:
    sides = {side: tempo for side, tempo in asked.clean if side in ("left", "right")}
    if len(sides) < 2 or sides["left"] == sides["right"]:
        return
    weaker, better = sorted(sides, key=lambda side: sides[side])
    first = asked.part.footing.first or asked.part.settings.lead
    why = f"Clean to {sides[weaker]:g} with the {weaker} foot first, to {sides[better]:g} with the {better}."
    side: StageSides = "as written" if weaker == first else "other side"
    start, end = sides[weaker], sides[better]
    yield Offer(Stage("weaker_side", (asked.id,), None, start, end, 2, side, 2), why)


def _neighbours(asked: Asked) -> tuple[str, str]:
    """The names of the parts before and after it in the combo, "" for none."""
    names = [item.part for item in asked.piece.combo]
    at = next((n for n, name in enumerate(names) if name == asked.part.name), None)
    if at is None:
        return "", ""
    after = next((name for name in names[at + 1 :] if name != asked.part.name), "")
    return names[at - 1] if at else "", after


def _join(asked: Asked) -> Iterator[Offer]:
    _, after = _neighbours(asked)
    if after in asked.ids:
        why = f"{after} follows it in the combo: the join is danced as often as the parts."
        parts = (asked.id, asked.ids[after])
        yield Offer(Stage("join", parts, start=asked.slow, end=asked.slow, sides="as written", times=4, rest=8), why)


def _home(asked: Asked) -> Iterator[Offer]:
    if asked.home and asked.known < asked.tempo:
        name = next((name for name, key in asked.ids.items() if key == asked.home), "")
        why = f"{name} is clean at its tempo: from it into this one and back to it, until this is as easy."
        parts = (asked.home, asked.id)
        yield Offer(Stage("home", parts, start=asked.slow, end=asked.slow, sides="as written", times=4), why)


def _run_in(asked: Asked) -> Iterator[Offer]:
    before, _ = _neighbours(asked)
    if before in asked.ids and before != asked.part.name:
        why = f"The last {LEAD_IN} counts of {before} lead into it, as in the combo."
        stage = Stage(
            "run_in", (asked.ids[before], asked.id), start=asked.slow, end=asked.slow, sides="as written", times=3,
            rest=8, lead_in=LEAD_IN,
        )  # fmt: skip
        yield Offer(stage, why)


def _count_only(asked: Asked) -> Iterator[Offer]:
    if not asked.known:
        why = "Said before it is danced: the counts alone, the feet still."
        stage = Stage("count_only", (asked.id,), start=asked.slow, end=asked.slow, sides="as written", times=2)
        yield Offer(replace(stage, heard="count_only"), why)


def _bare(asked: Asked) -> Iterator[Offer]:
    if asked.known >= asked.slow > 0 and asked.known:
        why = f"Clean at {asked.known:g}: with nothing heard after the count-in it shows whether the tempo holds."
        tempo = min(asked.known, asked.tempo)
        yield Offer(Stage("bare", (asked.id,), start=tempo, end=tempo, times=2, heard="nothing"), why)


def _click(asked: Asked) -> Iterator[Offer]:
    why = "Your own steps and counts over the click alone."
    yield Offer(Stage("click", (asked.id,), start=asked.slow, end=asked.slow, times=2, heard="click"), why)


def _gaps(asked: Asked) -> Iterator[Offer]:
    bar = asked.part.settings.counting.meter.counts
    if asked.known and asked.part.counts >= 2 * bar:
        why = f"The click is silent every other bar of {bar}: where it comes back shows whether the tempo held."
        tempo = min(asked.known, asked.tempo)
        yield Offer(Stage("gaps", (asked.id,), start=tempo, end=tempo, times=2, heard="gaps"), why)


def _music(asked: Asked) -> Iterator[Offer]:
    if not asked.known:
        why = "Early to music, slowly: the ear has its place in it before the feet are sure."
        yield Offer(Stage("music", (asked.id,), start=asked.slow, end=asked.slow, times=2, heard="music"), why)
    else:
        tempo = min(asked.known, asked.tempo)
        why = f"Clean at {asked.known:g}: to music, where nobody counts but you."
        yield Offer(Stage("music", (asked.id,), start=tempo, end=tempo, times=2, heard="music"), why)


def _one_foot(asked: Asked) -> Iterator[Offer]:
    struck = [s.foot for s in asked.part.sounds if s.heard and s.foot in ("left", "right") and not s.hand]
    left, right = struck.count("left"), struck.count("right")
    if left and right:
        why = f"What one foot has, {right} sounds on the right and {left} on the left, each before both together."
        yield Offer(Stage("one_foot", (asked.id,), start=asked.slow, end=asked.slow, heard="one_foot"), why)


def _layer(asked: Asked, kind: StageKind, layer: StageHeard, why: str) -> Iterator[Offer]:
    hands = [bool(s.hand) for s in asked.part.sounds if s.heard]
    if any(hands) and not all(hands):
        yield Offer(Stage(kind, (asked.id,), start=asked.slow, end=asked.slow, times=2, heard=layer), why)


def _hands(asked: Asked) -> Iterator[Offer]:
    said = "The rhythm of the hands before it goes with the feet: said aloud first, then played."
    for offer in _layer(asked, "hands", "voiced", said):
        yield replace(offer, more=(replace(offer.stage, heard="hands"),))


def _arms(asked: Asked) -> Iterator[Offer]:
    if any(cue.layer in ARMS for cue in asked.part.layers.cues):
        why = "The arms alone, the feet still: then they go by themselves over the steps."
        yield Offer(Stage("arms", (asked.id,), start=asked.slow, end=asked.slow, times=2, heard="count_only"), why)


def _feet(asked: Asked) -> Iterator[Offer]:
    return _layer(asked, "feet", "feet", "The feet alone, the hands left out.")


def _bar_by_bar(asked: Asked, kind: StageKind, said: str) -> Iterator[Offer]:
    """A part that grows by a bar, or by so many that it has at most four stages, from either end."""
    first, end = int(asked.part.first_count), int(asked.part.last_count) + 1
    bar = int(asked.part.settings.counting.meter.counts)
    bars = -(-(end - first) // bar)
    if bars < 2:
        return
    by = bar * -(-bars // MOST_GROWN)
    if kind == "backward":
        spans = [(at, end) for at in range(end - by, first, -by)]
    else:
        spans = [(first, at) for at in range(first + by, end, by)]
    whole = Stage(kind, (asked.id,), None, asked.slow, asked.slow, sides="as written", times=2)
    grown = [replace(whole, span=span) for span in spans]
    if grown:
        yield Offer(grown[0], said, (*grown[1:], whole))


def _forward(asked: Asked) -> Iterator[Offer]:
    return _bar_by_bar(asked, "forward", "Each time a little further, until it is whole.")


def _backward(asked: Asked) -> Iterator[Offer]:
    said = "Each time begun a little earlier: what comes next is known already."
    return _bar_by_bar(asked, "backward", said)


def _add_sound(asked: Asked) -> Iterator[Offer]:
    """A short part that begins with two of its sounds, and has one more each time, until it is whole."""
    many = len({sound.position for sound in asked.part.sounds if sound.heard})
    if not LEAST_ADDED <= many <= MOST_ADDED:
        return
    whole = Stage("add_sound", (asked.id,), None, asked.slow, asked.slow, sides="as written", times=2)
    grown = [replace(whole, sounds=sounds) for sounds in range(2, min(many, 2 + MOST_GROWN - 1))]
    why = f"Its first two sounds, then one more each time: {many} in all, of which one is new."
    yield Offer(grown[0], why, (*grown[1:], whole))


def _then_as_written(asked: Asked, kind: StageKind, said: str) -> Offer:
    """At another level, and then as it is written."""
    stage = Stage(kind, (asked.id,), start=asked.slow, end=asked.slow, times=2)
    return Offer(stage, said, (replace(stage, kind="click", heard="click"),))


def _simpler(asked: Asked) -> Iterator[Offer]:
    try:
        told = simpler(asked.part).said
    except VersionError:
        return
    yield _then_as_written(asked, "simpler", f"First with simpler steps, then as it is written. {told}")


def _seated(asked: Asked) -> Iterator[Offer]:
    if not asked.part.seated:
        said = "First on a chair, where other sounds stand in for what needs the weight of the body; then standing."
        yield _then_as_written(asked, "seated", said)


def _times_as_fast(asked: Asked, kind: StageKind, times: float, said: str) -> Iterator[Offer]:
    """At another speed by a whole ratio, and back, where both lie between the floor and the ceiling of its steps."""
    floor, ceiling = tempo_bounds(asked.part)
    slow, fast = sorted((asked.tempo, asked.tempo * times))
    if max(floor, SLOWEST) <= slow and fast <= min(ceiling, FASTEST):
        yield Offer(Stage(kind, (asked.id,), start=slow, end=fast, step=fast - slow, times=2), said)


def _half_time(asked: Asked) -> Iterator[Offer]:
    said = f"At half of {asked.tempo:g} every count lasts two beats of it; then as it is."
    return _times_as_fast(asked, "half_time", 1 / 2, said)


def _double_time(asked: Asked) -> Iterator[Offer]:
    said = f"As it is, then twice as fast: two counts to each beat of {asked.tempo:g}."
    return _times_as_fast(asked, "double_time", 2, said)


def _rows(asked: Asked) -> Iterator[Offer]:
    why = f"{ROWS} rows, one after another: who stands behind has seen it, who has danced it rests."
    stage = Stage("rows", (asked.id,), start=asked.slow, end=asked.slow, sides="as written", times=ROWS, rest=0)
    yield Offer(stage, why)


def _on_two(asked: Asked) -> Iterator[Offer]:
    settings = asked.part.settings
    if settings.tradition == "latin" and settings.counting.meter.counts in (4, 8):
        said = "The same steps a beat later in the music, then where they are written: on 2 and on 1."
        yield _then_as_written(asked, "on_two", said)


def _mirrored(asked: Asked) -> Iterator[Offer]:
    why = "As one dances it who faces the class: seen, heard and danced as in a mirror."
    yield Offer(Stage("mirrored", (asked.id,), start=asked.slow, end=asked.slow, times=2), why)


def _silent(asked: Asked) -> Iterator[Offer]:
    floor, _ = tempo_bounds(asked.part)
    slow = float(max(floor, SLOWEST, round(asked.slow * WARM / 2) * 2))
    why = "For control: each foot is set down without a sound; what leaves the floor is marked, not jumped."
    yield Offer(Stage("silent", (asked.id,), start=slow, end=slow, times=2, heard="count_only", rest=8), why)


def _ear(asked: Asked) -> Iterator[Offer]:
    if len({sound.position for sound in asked.part.sounds if sound.heard}) >= LEAST_ASKED:
        why = f"{ROUND} questions about how it sounds, before the feet are asked; a rest for them."
        yield Offer(by_ear(asked.id, asked.slow), why)


def by_ear(part: str, tempo: float, times: int = ROUND) -> Stage:
    """So many questions by ear about a part, heard at a tempo."""
    return Stage("ear", (part,), None, tempo, tempo, sides="as written", times=times, heard="steps", rest=0)


def _whole(asked: Asked) -> Iterator[Offer]:
    if asked.piece.combo:
        why = f"All of it from the top, at {asked.tempo:g}."
        yield Offer(
            Stage("whole", (COMBO,), start=asked.tempo, end=asked.tempo, sides="as written", times=1, rest=8), why
        )


MAKERS: dict[StageKind, tuple[str, Callable[[Asked], Iterator[Offer]]]] = {
    "hardest": ("the hardest bit", _hardest),
    "slow_full": ("slow, then full", _slow_full),
    "ladder": ("ladder of tempos", _ladder),
    "weaker_side": ("the weaker side", _weaker),
    "count_only": ("counts only", _count_only),
    "join": ("joined to what follows", _join),
    "run_in": ("with a run-in", _run_in),
    "home": ("with its home step", _home),
    "bare": ("with nothing heard", _bare),
    "click": ("to the click", _click),
    "warm_up": ("a warm-up", _warm_up),
    "hands": ("hands alone", _hands),
    "feet": ("feet alone", _feet),
    "arms": ("arms alone", _arms),
    "one_foot": ("one foot alone", _one_foot),
    "gaps": ("a click with gaps", _gaps),
    "music": ("to music", _music),
    "half_time": ("half time", _half_time),
    "double_time": ("double time", _double_time),
    "forward": ("from its beginning, bit by bit", _forward),
    "backward": ("from its end, bit by bit", _backward),
    "add_sound": ("a sound more each time", _add_sound),
    "simpler": ("with simpler steps", _simpler),
    "seated": ("on a chair", _seated),
    "rows": ("in rows", _rows),
    "on_two": ("on 2", _on_two),
    "mirrored": ("as in a mirror", _mirrored),
    "silent": ("without a sound", _silent),
    "ear": ("by ear", _ear),
    "whole": ("the whole from the top", _whole),
}
"""Each kind of stage: its name, and what makes it of a part where it fits, the likelier ones first."""


def offers(asked: Asked) -> list[Offer]:
    """The stages that fit a part, the likelier first; none for one without sounds."""
    if not asked.part.sounds or asked.part.name not in asked.ids:
        return []
    return [offer for _, make in MAKERS.values() for offer in make(asked)]


def title(stage: Stage, names: Mapping[str, str]) -> str:
    """What a stage is called: its parts and its kind; `names` by id. A part that is gone is said."""
    parts = [names.get(part, "a part that is gone") for part in stage.parts]
    if stage.kind == "join":
        return f"{', then '.join(parts)}: joined"
    if stage.kind == "home":
        return f"{parts[-1]} with {parts[0]} as its home step"
    if stage.kind == "run_in":
        return f"{parts[-1]} with a run-in from {parts[0]}"
    if stage.kind == "whole":
        return "From the top" if stage.parts == (COMBO,) else f"{parts[0]} from the top"
    if stage.kind in ("forward", "backward"):
        # What tells them apart, short enough to stand above the thread.
        return (
            f"{parts[0]}, all of it" if stage.span is None else f"{parts[0]}, {stage.span[0] + 1} to {stage.span[1]}"
        )
    if stage.kind == "add_sound":
        return f"{parts[0]}, its first {stage.sounds} sounds" if stage.sounds else f"{parts[0]}, all of it"
    return f"{parts[0]}: {MAKERS[stage.kind][0]}"


def offer_title(offer: Offer, names: Mapping[str, str]) -> str:
    """What is offered: a stage by what it is called, several by their kind and how many they are."""
    if not offer.more:
        return title(offer.stage, names)
    part = names.get(offer.stage.parts[0], "a part that is gone")
    return f"{part}: {MAKERS[offer.stage.kind][0]}, {len(offer.stages)} stages"


def span_place(stage: Stage) -> tuple[Fraction, Fraction] | None:
    """The places from which and up to which a stage is danced; None for all."""
    return None if stage.span is None else (Fraction(stage.span[0]), Fraction(stage.span[1]))
