"""A part's rhythm in sentences: what is said aloud, the counts it uses, when it comes round, and how thick it is."""

from fractions import Fraction

from firn.core.piece.piece import Part
from firn.core.reading.density import shortest_gap
from firn.core.reading.rhythm import family, slow_quick, used
from firn.core.reading.rounds import Groups, Rounds, pace


def _times(many: int) -> str:
    return {1: "once", 2: "twice"}.get(many, f"{many} times")


def rounds_said(shown: Rounds) -> str:
    """When a part comes round, in a sentence."""
    begins = ", ".join(str(b + 1) for b in shown.begins[:12]) + (", …" if shown.times > 12 else "")
    if shown.times == 1:
        return f"{shown.counts} counts: each time begins on {shown.first + 1}."
    return (
        f"{shown.counts} counts against {shown.phrase}: it begins on {begins}, and comes round after "
        f"{_times(shown.times)}, {shown.all} counts."
    )


def groups_said(shown: Groups) -> str:
    """When groups enter, in sentences."""
    enters = ", ".join(str(count + 1) for count in shown.enters)
    lined = (
        "They line up."
        if shown.lined_up
        else f"They do not line up: {shown.counts} counts do not fill phrases of {shown.phrase}."
    )
    if shown.entry == "follow":
        told = f"The follow comes in on count {shown.enters[-1] + 1}, {shown.apart} counts after the lead"
        meet = f"both dance until {shown.counts}" if shown.together is not None else "the lead is through by then"
        fours = "" if shown.lined_up else f" They do not line up: {shown.counts} counts are no {shown.apart}s."
        return f"{told}; {meet}, and all is over after {shown.all}.{fours}"
    if shown.entry == "relay":
        return f"In relay they enter on counts {enters}; all are through after {shown.all}. {lined}"
    return f"In canon they enter on counts {enters}; all dance from count {shown.enters[-1] + 1}. {lined}"


def pace_said(part: Part, tempo: float) -> str:
    """How thick a part is at a tempo, in sentences: the most, and the shortest gaps of both feet and of each."""
    shown = pace(part)
    if shown is None:
        return ""
    counting = part.settings.counting
    rates = shown.a_second(tempo)
    count = counting.number(Fraction(shown.first + rates.index(max(rates))))
    said = [f"Most in count {count}: {max(rates):.1f} sounds a second."]
    feet = (("shortest gap", ""), ("left foot", "left"), ("right foot", "right"))
    gaps = [(name, shortest_gap(part, foot)) for name, foot in feet]
    told = [
        f"{name} {gap.ms(tempo):.0f} ms ({counting.name(part.sounds[gap.first].place)} to "
        f"{counting.name(part.sounds[gap.second].place)})"
        for name, gap in gaps
        if gap is not None
    ]
    if told:
        said.append(f"{'; '.join(told).capitalize()}.")
    return " ".join(said)


def _counts(many: Fraction) -> str:
    return "1 count" if many == 1 else f"{many} counts"


def said_aloud(part: Part) -> list[str]:
    """What is said aloud for each line of a part: every count, holds included, and what is sounded between."""
    counting = part.settings.counting
    own = [s for s in part.sounds if not s.layer]
    if not own:
        return []
    starts: list[Fraction] = []
    last = -1
    for sound in own:
        line = part.uses[sound.use].line
        if line > last:
            starts.append(sound.place)
            last = line
    starts[0] = min(starts[0], part.first_count)
    end = part.last_count + 1
    counts = {Fraction(c) for c in range(int(-(-starts[0] // 1)), int(end))}
    said: list[list[str]] = [[] for _ in starts]
    number = 0
    for place in sorted(counts | {s.place for s in own}):
        while number + 1 < len(starts) and place >= starts[number + 1]:
            number += 1
        if place < end:
            said[number].append(counting.letter(place) or counting.counted(place))
    return [" ".join(line) for line in said]


MOST_LINES = 4


def used_said(part: Part) -> str:
    """What is said aloud, the counts that each phrase uses and leaves out, its family, and its slows and quicks."""
    phrases = used(part)
    aloud = said_aloud(part)
    lines = (
        [f"said aloud: {' / '.join(aloud[:MOST_LINES])}{' …' if len(aloud) > MOST_LINES else ''}."] if aloud else []
    )
    for number, one in enumerate(phrases):
        if number and one == phrases[number - 1]:
            continue
        where = f"Phrase {number + 1}: " if len(phrases) > 1 else ""
        counts = " ".join(map(str, one.sounded)) or "no count"
        between = f"; between, after {' '.join(map(str, one.between))}" if one.between else ""
        silent = f"; silent {' '.join(map(str, one.silent))}" if one.silent else ""
        name = family(one)
        lines.append(f"{where}sounds on {counts}{between}{silent}{f' ({name})' if name else ''}.")
    lines = [f"{line[:1].upper()}{line[1:]}" for line in lines[: MOST_LINES + 1]]
    quick = slow_quick(part)
    if quick is not None:
        said = " ".join(quick.said[:16]) + (" …" if len(quick.said) > 16 else "")
        lasts = f"{quick.quick} of a count" if quick.quick < 1 else _counts(quick.quick)
        lines.append(f"The weight goes {said}, a quick lasting {lasts}.")
    return "\n".join(lines)
