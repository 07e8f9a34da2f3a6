"""What is in doubt in a line that could be read in several ways: a word, and each way to take it."""

from collections.abc import Collection, Iterable, Iterator, Sequence
from fractions import Fraction
from functools import cached_property
from typing import NamedTuple

from msgspec import Struct
from msgspec.structs import replace

from firn.core.footing.stance import Trial
from firn.core.pattern import late
from firn.core.script.choices import ANYWHERE, NAMED, OFTEN, Choices, Named, Open
from firn.core.script.items import Item, Repeat, Word, WordRun
from firn.core.script.places import PlacedLine
from firn.core.script.problems import Problem
from firn.core.script.said import WHERE
from firn.core.steps.names import fold
from firn.core.steps.shelf import APART, TOGETHER, Words

_NUMBER = late(r"\d+")


class Offer(Struct, frozen=True):
    """One way to read a word: a code and names for its label; `written`: what is written in place of it and its
    counts, as (column, end, text); `words`: what its words mean in the piece."""

    code: str
    names: tuple[str, ...]
    written: tuple[int, int, str] | None = None
    words: Words = ()


class Doubt(Struct, frozen=True, dict=True):
    """A word, from column to end, that could be read in more ways than one: the believed one first. `again`: the same
    at other places, which are taken with it."""

    line: int
    column: int
    end: int
    offers: tuple[Offer, ...]
    again: "tuple[Doubt, ...]" = ()

    @cached_property
    def key(self) -> tuple[tuple[str, ...], ...]:
        """What is in doubt: once for a piece is enough, whichever counts it is on."""
        return tuple(
            (o.code, *(_NUMBER.sub("#", n) if o.code in ANYWHERE else n for n in o.names)) for o in self.offers
        )


def once_each(doubts: Iterable[Doubt]) -> tuple[Doubt, ...]:
    """What is in doubt once, at its first place, with the others."""
    alike: dict[tuple[tuple[str, ...], ...], list[Doubt]] = {}
    for doubt in doubts:
        alike.setdefault(doubt.key, []).append(doubt)
    found = (
        (first, (*first.again, *(one for other in again for one in (other, *other.again))))
        for first, *again in alike.values()
    )
    return tuple(replace(first, again=again) if again else first for first, again in found)


class Way(NamedTuple):
    """A line in one way: what was chosen, what came of it, how it is danced, and what it costs."""

    choices: Choices
    items: Sequence[Item]
    named: Sequence[Named]
    problems: tuple[Problem, ...]
    open: Sequence[Open]
    placed: PlacedLine
    trial: Trial
    cost: int
    heard: tuple[tuple[Fraction, str, str], ...]


def words_of(items: Sequence[Item]) -> list[Word]:
    """All words of a line, in their order."""
    found: list[Word] = []
    for item in items:
        if isinstance(item, WordRun):
            found += (w for word in item.words for w in (word, *word.joined))
        elif isinstance(item, Repeat):
            found += words_of(item.body)
    return found


def doubts_between(ways: Sequence[Way], text: str) -> Iterator[Doubt]:
    """What is in doubt where some ways differ, the believed one first."""
    chosen = [{*((at, None) for at in way.choices.otherwise), *way.choices.cards} for way in ways]
    # What all of them take in the same way is no matter of this doubt.
    alike = set.intersection(*chosen) if len(ways) > 1 else set()
    turned = {column for own in chosen for column, _ in own - alike}
    one = next((o for o in ways[0].open if o.column in turned or o.code == "squeezed"), None)
    if one is not None and (one.code == "squeezed" if len(ways) == 1 else turned):
        doubt = _left_open([o for way in ways for o in way.open if o.column == one.column], text)
        if len(doubt.offers) > 1 or len(ways) == 1:
            yield doubt
        return
    if len(ways) == 1:
        return
    words = [words_of(way.items) for way in ways]
    span = _differing(words)
    if span is None:
        # They lie otherwise on counts that leave nothing open: there is no word to ask about.
        return
    first, last = span
    regions = [[w for w in row if first <= w.column and w.end <= last] for row in words]
    parted = [_names_in(way.named, first, last) for way in ways]
    offers = []
    for region, own in zip(regions, parted, strict=True):
        whole = {name for way in parted for name in way}
        names = tuple(name for w in region for name in _said_with(w, whole))
        others = {name for way in parted for name in way} - set(own)
        said = (*((name, TOGETHER) for name in own), *((name, APART) for name in sorted(others)))
        offers.append(Offer("whole" if len(region) == 1 and own else "parted", names, words=said))
    # Of ways that are told by the same names the likeliest.
    named = {offer.names: offer for offer in reversed(offers)}
    offers = [offer for offer in offers if named[offer.names] is offer]
    if len(offers) > 1:
        yield Doubt(0, first, last, tuple(offers))


def _said_with(word: Word, whole: Collection[str]) -> tuple[str, ...]:
    """A word and where it goes, in one; in two where both are the name of a step: heels together."""
    said = f"{word.text} {word.where}".strip() if fold(word.text) not in WHERE else word.text
    single = word.card is not None and len(word.card.beats) == 1
    return (word.text, word.where) if word.where and single and said != word.text and fold(said) in whole else (said,)


def _left_open(ways: Sequence[Open], text: str) -> Doubt:
    """What is in doubt where counts were taken in one of several ways."""
    column = ways[0].column if ways[0].since is None else ways[0].since
    said = " ".join(text[column : ways[0].end].split())
    if ways[0].code in NAMED:
        offers = tuple(Offer("means", (o.written,), words=((said, o.written),)) for o in ways)
    elif ways[0].code in ("spelled", "figure"):
        spelled = next(o.written for o in ways if o.code == "spelled")
        meant = [(o, APART if o.code == "spelled" else o.written) for o in ways]
        offers = tuple(Offer(o.code, (o.written,), words=((spelled, name),)) for o, name in meant)
    else:
        offers = tuple(Offer(o.code, (_way_said(o),), (column, o.end, o.written)) for o in ways)
    # What is written alike is one, however it was come to.
    told = {(offer.written, offer.words): offer for offer in reversed(offers)}
    once = tuple(offer for offer in offers if told[offer.written, offer.words] is offer)
    return Doubt(0, column, ways[0].end, once)


def _way_said(way: Open) -> str:
    """One way, as it is offered."""
    if way.code in OFTEN:
        return f"{way.number} {OFTEN[way.code]}"
    # A comma in place of "and" is said as what it means.
    return way.written.rstrip(",") or "then"


def _differing(rows: Sequence[Sequence[Word]]) -> tuple[int, int] | None:
    """From which column to which some readings have other words; None where all have the same."""
    spans = [{(w.column, w.end, w.card) for w in row} for row in rows]
    shared = set.intersection(*spans)
    apart = [span for row in spans for span in row - shared]
    return (min(column for column, _, _ in apart), max(end for _, end, _ in apart)) if apart else None


def _names_in(named: Sequence[Named], first: int, last: int) -> tuple[str, ...]:
    return tuple(fold(n.text) for n in named if first <= n.column and n.end <= last)
