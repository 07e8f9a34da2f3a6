"""What the ear says, in words."""

from firn.core.ear.verdict import Heard, Mend, Verdict

_KINDS = {"flat": "stamp", "heel_step": "heel step", "toe_tip": "toe tip", "land": "landing"}


def _sound(values: dict[str, str]) -> str:
    """A sound by name: "The left flap on & after 2: its brush"."""
    foot = f"{values['foot']} " if values["foot"] in ("left", "right") else ""
    name = f"The {foot}{values['word']} on {values['count']}"
    if values["single"]:
        return name
    return f"{name}: its {_KINDS.get(values['kind'], values['kind'])}"


def mend_sentence(mend: Mend) -> str:
    """The one thing to mend first, in one sentence."""
    values = mend.values
    if mend.code == "clean":
        return f"Clean: every sound is there and on time, within {values['spread']} ms as a rule."
    if mend.code == "hold_dropped":
        count = "count" if values["length"] == "1" else "counts"
        return f"The hold on {values['counts']} was dropped: all after it came {values['length']} {count} early."
    if mend.code == "added":
        more = "One sound" if values["many"] == "1" else f"{values['many']} sounds"
        verb = "is" if values["many"] == "1" else "are"
        return f"{more} too many {verb} heard, the first just after {values['count']}."
    passes = f", {values['times']} of {values['passes']} times" if int(values["passes"]) > 1 else ""
    if mend.code == "missing":
        return f"{_sound(values)} is not heard{passes}."
    return f"{_sound(values)} comes {values['ms']} ms {mend.code}{passes}."


def summary(verdict: Verdict) -> str:
    """How many sounds were on, early, late, missing and added."""
    parts = [f"{verdict.count('on')} on"]
    later: tuple[Heard, ...] = ("early", "late", "missing")
    for heard in later:
        if number := verdict.count(heard):
            parts.append(f"{number} {heard}")
    if verdict.added:
        parts.append(f"{len(verdict.added)} added")
    return f"{', '.join(parts)}, at {verdict.tempo:.0f} counts a minute."
