"""The strip as SVG, row by row, narrow enough for a phone: soles on the thread, words over them, counts below."""

from collections.abc import Callable, Iterator, Sequence
from fractions import Fraction

from firn.core.piece.sound import Sound
from firn.core.steps.sole import CURVES, HEIGHT, START, STRUCK, WIDTH
from firn.session.pack.markup import Markup, tag
from firn.session.stretch import Stretch, described

ROW = 360
"""Units across a row: a phone's pixels."""

EDGE = 26
COUNTS = 4
"""Counts of a row where they are not dense; half of it where they are."""

DENSE = 4
"""More sounds in a count than so many make it dense."""

TIER, TIERS = 17, 3
"""Words stand in as many tiers as they need, each so high."""

LETTER = 7.6
"""About how wide a letter of a word is."""

SOLE = 34.0
LANES = {"left": 24, "right": 76}
"""The middle of each lane below the words."""

BELOW = 126
FEET = {"left": "L", "right": "R"}


def symbols() -> Markup:
    """The soles that rows refer to: of each foot one for each part that strikes, and one for none."""
    outline = f"M{_pair(START)}" + "".join(
        f"C{_pair(curve[:2])} {_pair(curve[2:4])} {_pair(curve[4:])}" for curve in CURVES
    )
    made = []
    for foot, turned in (("L", ""), ("R", f' transform="matrix(-1 0 0 1 {WIDTH:g} 0)"')):
        for part in ("none", *STRUCK):
            first, last = STRUCK.get(part, (0.0, 0.0))
            clip = f"c{foot}{part}"
            struck = (
                f'<clipPath id="{clip}"><rect x="-2" y="{first * HEIGHT - 2:.1f}" width="26" '
                f'height="{(last - first) * HEIGHT + 3:.1f}"/></clipPath>'
                f'<path d="{outline}" fill="currentColor" clip-path="url(#{clip})"/>'
                if last
                else ""
            )
            line = f'<path d="{outline}Z" fill="var(--paper)"/>{struck}'
            line += f'<path d="{outline}Z" fill="none" stroke="currentColor" stroke-width="1.6"/>'
            box = f"-1 -1 {WIDTH + 2:g} {HEIGHT + 2:g}"
            made.append(f'<symbol id="s{foot}{part}" viewBox="{box}"><g{turned}>{line}</g></symbol>')
    return tag("svg", Markup("".join(made)), width=0, height=0, aria_hidden="true", focusable="false")


def _pair(point: Sequence[float]) -> str:
    return f"{point[0]:g} {point[1]:g}"


def rows(stretch: Stretch) -> Iterator[Markup]:
    """Each row of a stretch as an SVG element that says what is in it."""
    per = COUNTS
    within: dict[int, int] = {}
    for sound in stretch.sounds:
        count = int(sound.place // 1)
        within[count] = within.get(count, 0) + 1
    if max(within.values(), default=0) > DENSE:
        per = COUNTS // 2
    first = min([stretch.first, *(Fraction(s.place // 1) for s in stretch.sounds)])
    # A pick-up stands before the first row's counts where it fits there.
    lead = stretch.first - first
    begin = stretch.first if lead <= 1 else first
    number = 0
    while begin < stretch.end:
        end = min(begin + per, stretch.end)
        low = first if number == 0 and lead <= 1 else begin
        yield _row(stretch, low, begin, end, per)
        begin, number = end, number + 1


def _row(stretch: Stretch, low: Fraction, begin: Fraction, end: Fraction, per: int) -> Markup:
    """Counts from one to another; `low`: from where on a pick-up before them is shown."""
    before = begin - low
    px = (ROW - 2 * EDGE) / float(per + before)

    def x(place: Fraction) -> float:
        return EDGE + float(place - low) * px + 8

    inside = [i for i, s in enumerate(stretch.sounds) if low <= s.place < end]
    texts = {i: text for i, text in stretch.words if i in set(inside)}
    titles = [(place, text) for place, text in stretch.titles if low <= place < end]
    placed, tiers = _tiers([(x(stretch.sounds[i].place), i, text) for i, text in texts.items()])
    above = TIER + 4 if titles else 0
    top = tiers * TIER + 8 + above
    parts = [_thread(stretch, inside, x, top, low, end)]
    # Where a part of a combo begins, it is named.
    parts += [tag("text", text, class_="title", x=f"{x(place) - 8:.1f}", y=14) for place, text in titles]
    parts += [
        tag("text", text, class_="word", x=f"{at:.1f}", y=14 + above + tier * TIER, data_i=i)
        for at, i, text, tier in placed
    ]
    counting = stretch.counting
    for count in range(int(low), int(end)):
        place = Fraction(count)
        strong = " strong" if counting.strong(place) else ""
        parts.append(_label(f"count{strong}", x(place), top, counting.counted(place)))
    for i in inside:
        sound = stretch.sounds[i]
        parts.append(_sole(sound, i, x(sound.place), top))
        if sound.place.denominator != 1:
            parts.append(_label("part", x(sound.place), top, _short(sound.say)))
    said = "; ".join(described(stretch, i) for i in inside) or "nothing is danced"
    return tag(
        "svg",
        Markup("".join(parts)),
        class_="row",
        viewBox=f"0 0 {ROW} {top + BELOW + 10}",
        role="img",
        aria_label=said,
        data_from=f"{float(low):g}",
        data_to=f"{float(end):g}",
    )


def _label(kind: str, x: float, top: int, text: str) -> Markup:
    return tag("text", text, class_=kind, x=f"{x:.1f}", y=top + BELOW)


def _short(say: str) -> str:
    """What is said of a division without its number."""
    return say.lstrip("0123456789") or say


def _tiers(words: list[tuple[float, int, str]]) -> tuple[list[tuple[float, int, str, int]], int]:
    """Words with the tier in which each has room, the lowest first; and how many tiers there are."""
    ends = [-1e9] * TIERS
    found = []
    for at, index, text in sorted(words):
        half = len(text) * LETTER / 2
        centre = min(max(at, half + 2), ROW - half - 2)
        tier = next((t for t in range(TIERS) if ends[t] < centre - half), min(range(TIERS), key=lambda t: ends[t]))
        ends[tier] = centre + half + 4
        found.append((centre, index, text, tier))
    used = 1 + max((tier for *_, tier in found), default=0)
    # The first tier stands nearest to the soles.
    return [(at, i, text, used - 1 - tier) for at, i, text, tier in found], used


def _sole(sound: Sound, index: int, x: float, top: int) -> str:
    width = SOLE * WIDTH / HEIGHT
    if not sound.foot:
        name = "claps" if sound.hand else "silent"
        mark = (
            f'<circle cx="{x:.1f}" cy="{top + 50}" r="7" fill="none" stroke="currentColor" stroke-width="2"/>'
            if sound.hand
            else f'<path d="M{x - 6:.1f} {top + 50}h12" stroke="currentColor" stroke-width="2"/>'
        )
        return f'<g class="sound {name}" data-i="{index}">{mark}</g>'
    feet = ("left", "right") if sound.foot == "both" else (sound.foot,)
    part = "none" if sound.silent else sound.strikes if sound.strikes in STRUCK else "none"
    soles = []
    for foot in feet:
        # Without weight it is off the thread; with it, on it.
        off = 0 if sound.weight in (foot, "both") else -9 if foot == "left" else 9
        y = top + LANES[foot] - SOLE / 2 + off
        soles.append(
            f'<use href="#s{FEET[foot]}{part}" class="{foot}" x="{x - width / 2:.1f}" y="{y:.1f}" '
            f'width="{width:.1f}" height="{SOLE:g}"/>'
        )
    lean = f'<path class="lean" d="M{x - 8:.1f} {top + BELOW - 20}h16"/>' if sound.level > 0 else ""
    return f'<g class="sound" data-i="{index}">{"".join(soles)}{lean}</g>'


def _thread(
    stretch: Stretch, inside: list[int], x: Callable[[Fraction], float], top: int, low: Fraction, end: Fraction
) -> str:
    """Where the weight is, from the row's beginning to its end."""
    before = next(
        (s.weight for s in reversed(stretch.sounds[: inside[0]] if inside else ()) if s.weight in LANES), ""
    )
    stood = [(s.place, s.weight) for s in (stretch.sounds[i] for i in inside) if s.weight in LANES]
    if not before and not stood:
        return ""
    foot = before or ("right" if stood[0][1] == "left" else "left")
    path = f"M{x(low) - 8:.1f} {top + LANES[foot]}"
    for place, after in stood:
        if after != foot:
            at = x(place)
            y0, y1 = top + LANES[foot], top + LANES[after]
            path += f"H{at - 20:.1f}C{at - 8:.1f} {y0} {at - 12:.1f} {y1} {at:.1f} {y1}"
            foot = after
    path += f"H{x(end) - 6:.1f}"
    lanes = "".join(f'<text class="lane {f}" x="6" y="{top + y + 5}">{FEET[f]}</text>' for f, y in LANES.items())
    return f'{lanes}<path class="thread" d="{path}"/>'
