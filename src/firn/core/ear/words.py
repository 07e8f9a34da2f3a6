"""What the ear says, in words."""

from firn.core.ear.click import BEHIND_MS
from firn.core.ear.first import FirstMend, sound_said
from firn.core.ear.judged import HeardAs
from firn.core.ear.shoes import Otherwise, Shown
from firn.core.ear.timbre import Exchanged
from firn.core.ear.verdict import Verdict
from firn.core.ear.whole import Whole
from firn.core.piece.piece import Part
from firn.core.steps.kinds import kind_said
from firn.core.steps.sides import ACROSS


def _sound(values: dict[str, str]) -> str:
    """A sound by name: "The left flap on & after 2: its brush"."""
    foot = f"{values['foot']} " if values["foot"] in ("left", "right") else ""
    name = f"The {foot}{values['word']} on {values['count']}"
    if values["single"]:
        return name
    return f"{name}: its {'landing' if values['kind'] == 'land' else kind_said(values['kind'])}"


def mend_sentence(mend: FirstMend) -> str:
    """The one thing to mend first, in one sentence."""
    values = mend.values
    if mend.code == "clean" and values["unheard"] == "0":
        return f"Clean: every sound is there and on time, within {values['spread']} ms as a rule."
    if mend.code == "clean":
        unheard = "one sound is" if values["unheard"] == "1" else f"{values['unheard']} sounds are"
        return f"What is heard is clean, within {values['spread']} ms as a rule; {unheard} not heard."
    if mend.code == "hold_dropped":
        count = "count" if values["length"] == "1" else "counts"
        return f"The hold on {values['counts']} was dropped: all after it came {values['length']} {count} early."
    if mend.code in ("behind", "ahead"):
        where = "behind" if mend.code == "behind" else "ahead of"
        return f"All of it is {values['ms']} ms {where} the click, evenly: let the foot land on it."
    if mend.code == "came_in":
        count = "count" if values["counts"] == "1" else "counts"
        return f"You came in {values['counts']} {count} {values['when']}, and then stayed with the click."
    if mend.code == "swing":
        flat = float(values["ratio"]) < float(values["meant"])
        how = "too flat" if flat else "too long"
        if values["meant"] == "1":
            return f"It swings, {values['ratio']} to 1, where straight is meant: lay the & in the middle."
        return f"The swing is {how}: {values['ratio']} to 1, where {values['meant']} to 1 is meant."
    if mend.code == "added":
        more = "One sound" if values["many"] == "1" else f"{values['many']} sounds"
        verb = "is" if values["many"] == "1" else "are"
        return f"{more} too many {verb} heard, the first just after {values['count']}."
    if mend.code == "order":
        return exchange_sentence(values)
    if mend.code == "kind":
        return otherwise_sentence(values)
    if mend.code == "slip":
        what = {"missing": "was not heard", "added": "had a sound too many after it"}.get(values["what"], "")
        what = what or f"came {values['ms']} ms {values['what']}"
        more = "" if values["many"] == "1" else f", and {int(values['many']) - 1} more such"
        return f"Slips, no habit: {_once(values)} {_lower(_sound(values))} {what}{more}."
    passes = f", {values['times']} of {values['passes']} times" if int(values["passes"]) > 1 else ""
    if mend.code == "missing":
        return f"{_sound(values)} is not heard{passes}."
    return f"{_sound(values)} comes {values['ms']} ms {mend.code}{passes}."


def exchange_said(part: Part, one: Exchanged) -> dict[str, str]:
    """The values of a sentence on two sounds that sound as if they had changed places."""
    counting = part.settings.counting
    first, then = (f"{kind_said(part.sounds[i].kind)} on {counting.name(part.sounds[i].place)}" for i in one.sounds)
    return {"first": first, "then": then, "times": str(one.times), "passes": str(one.of)}


def exchange_sentence(values: dict[str, str]) -> str:
    """That two sounds sound as if they had changed places: heard by their colour alone, so never said as certain."""
    often = "" if values["passes"] == "1" else f", {values['times']} of {values['passes']} times"
    return f"The {values['first']} and the {values['then']} sound as if they had changed places{often}."


def order_facts(part: Part, verdict: Verdict) -> list[str]:
    """The same for each such pair but the one that is said first."""
    said = [exchange_sentence(exchange_said(part, one)) for one in verdict.order]
    return said[1:] if verdict.mend.code == "order" else said


STRUCK: dict[Shown, str] = {
    "heel": "a heel", "ball": "the ball of the foot", "tip": "the tip", "flat": "the whole foot", "airy": "a brush",
    "slide": "a slide", "hand": "hands",
}  # fmt: skip
"""What struck, as it is said."""


def otherwise_said(part: Part, one: Otherwise) -> dict[str, str]:
    """The values of a sentence on a sound that sounds as another kind than is written."""
    struck = next(said for kind, said in STRUCK.items() if kind == one.kind)
    return {**sound_said(part, one.sound), "struck": struck, "times": str(one.times), "passes": str(one.of)}


def otherwise_sentence(values: dict[str, str]) -> str:
    """That a sound sounds as if another part of the foot had struck: heard by its colour alone, so never certain."""
    return f"{_sound(values)} sounds like {values['struck']}, {values['times']} of {values['passes']} times."


def otherwise_facts(part: Part, verdict: Verdict) -> list[str]:
    """The same for each such sound but the one that is said first."""
    said = [otherwise_sentence(otherwise_said(part, one)) for one in verdict.otherwise]
    return said[1:] if verdict.mend.code == "kind" else said


def _lower(text: str) -> str:
    return text[:1].lower() + text[1:]


def _once(values: dict[str, str]) -> str:
    times = "once" if values["times"] == "1" else f"{values['times']} times"
    return f"{times} in {values['passes']}"


def summary(verdict: Verdict) -> str:
    """How many sounds were on, early, late, missing and added."""
    parts = [f"{verdict.count('on')} on"]
    later: tuple[HeardAs, ...] = ("early", "late", "missing")
    for heard in later:
        if number := verdict.count(heard):
            parts.append(f"{number} {heard}")
    echoes, doubted = sum(a.echo for a in verdict.added), sum(a.doubted for a in verdict.added)
    if len(verdict.added) > doubted:
        parts.append(f"{len(verdict.added) - doubted} added")
    if echoes:
        parts.append(f"{echoes} that may be echo")
    if doubted > echoes:
        parts.append(f"{doubted - echoes} that may be no step")
    return f"{', '.join(parts)}, at {verdict.tempo:.0f} counts a minute."


def _click_facts(take: Whole) -> list[str]:
    kept = take.kept
    if kept is None:
        return []
    if kept.lost:
        return ["Not with the click: the take has a tempo of its own."]
    said = []
    if kept.came_in:
        many = abs(kept.came_in)
        when = "late" if kept.came_in > 0 else "early"
        said.append(f"Came in {many} {'count' if many == 1 else 'counts'} {when}.")
    where = "behind" if kept.lag_ms > 0 else "ahead of"
    near = abs(kept.lag_ms) <= BEHIND_MS
    said.append("With the click." if near else f"{abs(kept.lag_ms):.0f} ms {where} the click, in the middle.")
    return said


STEADY_CPM = 2.0
EVEN_DB = 8.0
ALIKE_MS = 8.0
SAID_PASSES = 16


def facts(part: Part, take: Whole) -> list[str]:
    """A take as a whole, a sentence for each thing worth saying."""
    said = _click_facts(take)
    if take.counted:
        said.append("Firn's own counts or beats are in it: they were taken out before the feet were judged.")
    if len(take.off_by_pass) > 1 and any(take.off_by_pass):
        more = ", and so on," if len(take.off_by_pass) > SAID_PASSES else ""
        each = ", ".join(str(n) for n in take.off_by_pass[:SAID_PASSES])
        said.append(f"Time by time: {each}{more} not on.")
    if take.faster is not None:
        way = "faster" if take.faster > 0 else "slower"
        by = f"{abs(take.faster):.1f} {way} over the take" if abs(take.faster) >= 0.1 else "the tempo did not move"
        said.append(f"Steady: {by}." if abs(take.faster) <= STEADY_CPM else f"The tempo crept: {by}.")
    if take.uneven:
        one = max(take.uneven, key=lambda u: abs(u.db))
        sound = part.sounds[one.sound]
        louder = "louder" if one.db > 0 else "softer"
        name = f"the {sound.foot} {part.word(sound)}".replace("the  ", "the ")
        count = part.settings.counting.name(sound.place)
        said.append(f"Uneven: {name} on {count} is {abs(one.db):.0f} dB {louder} than others of its kind.")
    elif take.range_db <= EVEN_DB:
        said.append(f"Even: within {take.range_db:.0f} dB.")
    lost = [part.sounds[i] for i, kept in take.holds if not kept]
    if lost:
        said.append(f"The hold on {part.settings.counting.name(lost[0].place)} was not kept.")
    elif take.holds:
        said.append("The hold was kept." if len(take.holds) == 1 else "The holds were kept.")
    return [*said, *_feet_facts(take)]


def _feet_facts(take: Whole) -> list[str]:
    said = []
    sides = take.sides
    if sides is not None and sides.late is not None:
        foot, ms = sides.late
        said.append(f"The {foot} foot comes {ms:.0f} ms after the {ACROSS[foot]}, like against like.")
    if sides is not None and sides.soft is not None:
        foot, db = sides.soft
        said.append(f"The {foot} foot is {db:.0f} dB softer than the {ACROSS[foot]}.")
    left, right = take.feet_ms.get("left"), take.feet_ms.get("right")
    if said or left is None or right is None:
        return said
    if abs(left - right) <= ALIKE_MS:
        return [f"Left and right alike: {left:.0f} and {right:.0f} ms off on average."]
    worse, better = ("left", "right") if left > right else ("right", "left")
    return [
        f"The {worse} is less sure than the {better}: "
        f"{max(left, right):.0f} against {min(left, right):.0f} ms off on average."
    ]
