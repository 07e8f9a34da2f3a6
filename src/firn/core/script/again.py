"""Lines that dance the line before them again: "again x3", "other side", "same but 7 stamp", "three times"."""

import re
from collections.abc import Sequence
from fractions import Fraction
from functools import lru_cache

from msgspec import Struct
from msgspec.structs import replace

from firn.core.meter.counting import Counting
from firn.core.pattern import late
from firn.core.script.collector import MOST_TIMES
from firn.core.script.places import Use, span_of
from firn.core.script.said import NUMBERS, ONCE_OR_MORE, SIDES

_AGAIN = late(
    # Spaces are never given back: a line of very many would be gone through as often.
    r"""\s*+(?:(?:and|y|then)\s++)?(?:(?:do|dance)\s++(?:it|that|this)\s++(?!again))?(?P<said>
        (?P<same>again|(?P<all>(?:repeat|dance|do)\s++(?:it\s++)?(?:all(?:\s++of\s++it)?|everything|both\s++lines|(?:all\s++)?from\s++the\s++top
                |the\s++whole\s++thing)|(?:(?:both|all(?:\s++the)?)\s++lines|all(?:\s++of\s++it)?|everything)\s++again|todo\s++otra\s++vez|repite\s++todo)
            |one\s++(?:more|last)\s++time|una\s++vez\s++más|(?:the\s++)?same(?:\s++thing)?(?:\s++again)?|(?:repeat|rpt)(?:\s++(?:it|that|again))?|once\s++more|otra\s++vez
            |(?:do\s++)?(?:that|it)\s++again
            |(?:lo\s++)?mismo|igual|(?:se\s++)?repite|repetir)?
        (?:(?:^|\s*+,?\s*+)(?P<other>
            (?:(?:on|with|from)\s++the\s++|to\s++the\s++|the\s++(?!\w++\s++way))?(?:other|opposite)\s++(?:side|foot|leg|way)
            |(?:(?:go|come)\s++)?back\s++(?:(?:on|to|with)\s++)?(?:the\s++)?(?:other|opposite)\s++(?:side|foot|leg|way)
            |(?P<both>(?:on\s++|to\s++)?(?:both|each)\s++(?:sides?|ways?|foot|feet)
                |(?:a\s++|en\s++|por\s++|de\s++)?(?:ambos|los\s++dos)\s++lados)
            |(?:reverse|mirror|switch|(?:change|swap)(?=\s++(?:sides|feet|legs)))(?:\s++(?:it|that|sides|feet|legs))?
                (?:\s++and\s++(?:repeat|do\s++(?:it|that)\s++again)(?:\s++it)?)?
            |(?:(?:on|with)\s++)?(?:the\s++)?(?P<same_side>left|right)(?:\s++(?:side|foot|leg))?(?:\s*+:)?\s++(?:(?:does|do)\s++)?(?:the\s++)?same
            |(?:del\s++|al\s++|con\s++el\s++|a\s++la\s++)?otr[oa]\s++(?:lado|pie|pierna)
            |(?:(?<=[a-z]\s)|(?<=[a-z],\s))(?:(?:(?:starting|beginning)\s++)?(?:(?:on|with|to)(?:\s++the|(?=\s++[lr](?!\w))))|starting|beginning|empezando\s++con\s++(?:la|el)
                |con\s++(?:la|el)|a\s++la|por\s++la|(?:(?<=(?:peat|gain|same|more|hing)\s)|(?<=(?:peat|gain|same|more|hing),\s)|(?<=rpt\s)))\s*+(?P<side>left|right|[lr](?!\w)|izquierd[ao]|derech[ao])
                (?:\s++(?:side|foot))?))?
        (?:\s*+,?\s*+(?:[x×]\s?(?P<times>\d+)|(?P<more>twice|thrice|\w++)\s++(?:more(?:\s++times)?|(?:times|veces)\s++(?:more|más))
            |(?P<many>twice|thrice|(?:\w++)\s++(?:times|veces))(?:\s++(?:in\s++(?:all|total)|altogether|en\s++total))?))?
    )(?:\s++(?:to|so\s++you)\s++(?:end\s++)?(?:face|facing)\s++\w++(?:\s++(?:walls?|sides?))?)?+\s*+(?:,?\s*+\b(?P<but>but|pero)\b(?P<change>.*)|,?\s*+(?P<instead>(?:(?:without|no|sin|minus|leave\s++out|leaving\s++out)\s|
        [^,]*\b(?:instead\s++of|for\s++the|en\s++vez\s++de|por\s++el|por\s++la)\s).*))?""",
    re.IGNORECASE | re.VERBOSE | re.DOTALL,
)


_TIMES = ("times", "veces", "times in all", "times in total", "times altogether", "veces en total")
"""With these ends what begins with a number and is no step."""
_INSTEAD = late(
    r"""\s*+(?:
        (?:without|no|sin|minus|leave\s++out|leaving\s++out)\s++(?:(?:the|a|an|el|la|los|las)\s++)?(?P<without>.+)
        |(?:with\s++|con\s++)?(?:(?:the|a|an|un|una)\s++)?(?P<new>.+?)(?<!\s)\s++
            (?:instead\s++of|in\s++place\s++of|for(?=\s++the\s)|en\s++vez\s++de|en\s++lugar\s++de|por(?=\s++(?:el|la)\s))\s++
            (?:(?:the|a|an|el|la|los|las)\s++)?(?P<old>.+)
        |(?:(?:ends?|ending|finish|finishing)\s++(?:with|on)|termina(?:ndo)?\s++con
            |(?:the\s++)?last\s++(?:one\s++|step\s++)?(?:is\s++)?|(?:el|la)\s++últim[oa](?:\s++es)?)\s*+
            (?:(?:a|an|the|un|una)\s++)?(?P<last>.+)
    )""",
    re.IGNORECASE | re.VERBOSE | re.DOTALL,
)


class Instead(Struct, frozen=True):
    """What a line is danced again without, or with in place of what: `new` begins at `at` of what is said, "" where
    `old` is left out; `old` is "" for the last word."""

    new: str
    at: int
    old: str


def instead_of(change: str) -> Instead | None:
    """What is said of another word in place of one: without the clap, stamp instead of clap, end with a stamp."""
    match = _INSTEAD.fullmatch(change.rstrip(" .,;"))
    if match is None:
        return None
    if match["without"]:
        return Instead("", match.start("without"), match["without"])
    which = "new" if match["new"] else "last"
    return Instead(match[which], match.start(which), match["old"] or "")


def put_in_place(uses: Sequence[Use], target: Use, new: Sequence[Use]) -> list[Use]:
    """Words with others in the place of one: the first of them on the beat of that."""
    shift = _beat(target) - _beat(new[0])
    placed = [replace(use, places=tuple(p + shift for p in use.places), again=True) for use in new]
    return sorted([*(use for use in uses if use is not target), *placed], key=lambda use: use.places[0])


def _beat(use: Use) -> Fraction:
    """The first whole count of a word, or where it begins."""
    return next((p for p in use.places if p.denominator == 1), use.places[0])


def _repeats(said: str | None) -> bool:
    """Whether it is "repeat" that is said, after which a number may be of all times."""
    return said is not None and said.casefold().startswith(("repe", "repi", "se repi", "rpt"))


class Again(Struct, frozen=True):
    """A line that dances the one before again: how often, whether on the other side, and what then is different.

    `column`, `end`: where that is said; `change` begins at `at`, and is None where nothing is different. `doubtful`:
    so often may mean in all: repeat x3. `side`: the side that is said, where that is which; `both`: both are.
    `repeats`: it is "repeat" that is said, and no more, which may be of all lines; `whole`: all lines are; `more`: it
    is said that there are more, and not only how many.
    """

    times: int
    other: bool
    column: int
    end: int
    change: str | None = None
    at: int = 0
    doubtful: bool = False
    side: str = ""
    both: bool = False
    repeats: bool = False
    whole: bool = False
    more: bool = False


@lru_cache(maxsize=4_000)
def again_of(line: str) -> Again | None:
    """What a line says of the one before it; None for a line of steps."""
    # A full stop ends it; "but 7 stamp!" is loud.
    text = line.split("#")[0].rstrip(" \t.")
    first = text.lstrip()[:1]
    # What begins with a count is steps, unless it is "3 times".
    if not first or first in "&([" or (first.isdecimal() and not text.casefold().endswith(_TIMES)):
        return None
    match = _AGAIN.fullmatch(text) or _AGAIN.fullmatch(text.rstrip("!"))
    if match is None or not match["said"]:
        return None
    said = match["many"] or match["more"]
    times = int(match["times"][:6]) if match["times"] else _many(said.strip("xX×")) if said else 1
    if times is None:
        return None
    if not (match["same"] or match["other"] or match["more"]):
        # "x3" alone: the line before is danced so often in all.
        times -= 1
        if times < 1 or match["but"] or match["instead"]:
            return None
    which = "change" if match["but"] else "instead"
    change = match[which]
    return Again(
        min(max(times, 1), MOST_TIMES), bool(match["other"]), match.start("said"), match.end("said"),
        change.strip() if change is not None else None,
        match.start(which) + len(change) - len(change.lstrip()) if change is not None else 0,
        times > 1 and not match["but"] and not match["other"] and _repeats(match["same"]),
        SIDES.get((match["side"] or match["same_side"] or "").casefold(), ""), bool(match["both"]),
        times == 1 and change is None and not match["both"] and not match["all"] and _repeats(match["same"]),
        bool(match["all"]), bool(match["more"] or match["same"] or match["same_side"]),
    )  # fmt: skip


def _many(text: str) -> int | None:
    """How often "twice" or "three times" says; None where that is no number."""
    word = text.split()[0].casefold()
    if word in ONCE_OR_MORE:
        return ONCE_OR_MORE[word]
    return NUMBERS.get(word) or (int(word[:6]) if word.isdecimal() else None)


def danced_again(again: Again, body: Sequence[Use], line: int) -> list[Use]:
    """The words of the line before once or several times more; every second time on the first side again."""
    span = span_of(body)
    uses: list[Use] = []
    for copy in range(1, again.times + 1):
        other = again.other and copy % 2 == 1
        for number, use in enumerate(body):
            moved = use.moved(Fraction(span * copy), copy=use.copy + copy).on_side(use, swapped=other)
            word = replace(moved.word, column=again.column, end=again.end, joined=())
            across = Fraction(span * copy) if number == 0 and again.other else Fraction(0)
            uses.append(replace(moved, line=line, word=word, again=True, across=across))
    return uses


def changed(uses: Sequence[Use], body: Sequence[Use], new: Sequence[Use], counting: Counting) -> list[Use] | None:
    """A time with other words in place of what they fall on, from its last such count on; None where there is none.

    Counts are those that are said in it, else those of the line before (`body`).
    """
    first = min(u.places[0] for u in new)
    said = counting.say(first)
    filled = [
        p + n
        for use in uses
        for p, length in zip(use.places, use.lengths, strict=True)
        for n in range(max(1, int(length)))
    ]
    later = uses[0].places[0] - body[0].places[0]
    there = [p for p in filled if counting.say(p) == said] or [p for p in filled if counting.say(p - later) == said]
    if not there:
        return None
    shift = max(there) - first
    placed = [replace(u, places=tuple(p + shift for p in u.places)) for u in new]
    start, last = first + shift, max(u.last for u in placed)
    kept = [_until(u, start) for u in uses if not any(start <= p <= last for p in u.places)]
    return sorted([*kept, *placed], key=lambda u: u.places[0])


def _until(use: Use, place: Fraction) -> Use:
    """A word whose holds end before a place."""
    if not use.places[0] < place <= use.last:
        return use
    ends = [p + n - 1 for p, n in zip(use.places, use.lengths, strict=True)]
    cut = (
        Fraction(place // 1 - p) if p < place <= end else n
        for p, n, end in zip(use.places, use.lengths, ends, strict=True)
    )
    return replace(use, lengths=tuple(cut))
