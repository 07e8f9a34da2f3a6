"""Findings in words: the one place where checks are put into English."""

from collections.abc import Callable

from firn.core.reading.finding import Finding, MendText, Value, Values
from firn.core.reading.kinds import KINDS
from firn.core.steps.kinds import kind_said

_AWKWARD = {
    "heavier": "both feet are down, and the {foot} one moves though it carries more of the weight",
    "takes": "the weight goes over to the {foot} foot as it drops, or what comes next could not be danced",
}
"""Why a sound is awkward."""

_LIMITS = (
    ("own", "clean so far at {0} (the log)"),
    ("floor", "from {0} up (the cards)"),
    ("ceiling", "up to {0} (the cards)"),
)
"""Limits that are somebody's, each with whose."""

_USUAL = (
    ("same_foot", "the same foot again takes {1:g} ms at {0}"),
    ("any", "two sounds come within {1:g} ms at {0}"),
    ("air", "the air lasts no longer than {1:g} ms from {0} up"),
)
"""The usual limits."""

_LABELS = {
    "write_hold": "write {counts} hold",
    "other_lead": "start on the {foot} foot",
    "becomes": "{kind} on {count} becomes {becomes}",
    "then_same": "a {becomes} on {count}: it stays on its side",
    "then_other": "a {becomes} on {count}: it changes sides",
    "once_more": "{word} once more: it goes the other way",
    "once_fewer": "{word} once fewer: it goes the other way",
    "turn_in": "turn {turn} in {part}",
    "swap": "{word} on {count} on the {foot} foot",
    "land": "land after {word} on {count}",
    "leave_out": "leave out the {kind} on {count}",
    "other_ending": "{part} ends with {ends}",
    "late_entry": "{part} begins with {ends}",
    "write_pulse": "write pulse: {pulse}",
    "in_rest": "{becomes} in the hold on {count}",
    "read_as": "read it as {read}",
}


def _many(number: Value, what: str) -> str:
    return f"{number} {what}" if number == 1 else f"{number} {what}s"


def _kind(values: Values) -> str:
    return kind_said(str(values["kind"]))


def _becomes(values: Values) -> str:
    return kind_said(str(values["becomes"]))


def _end(values: Values) -> str:
    """The end of the foot that drops."""
    return "toe" if values.get("kind") == "toe" else "heel"


def _off(values: Values) -> str:
    return "Nothing" if values["off"] == 0 else _many(values["off"], "sound")


def _hang(values: Values) -> str:
    return "1 hangs" if values["many"] == 1 else f"{values['many']} hang"


def _limits(values: Values) -> str:
    told = [text.format(values[key]) for key, text in _LIMITS if key in values]
    usual = [text.format(values[key], values.get(f"{key}_ms")) for key, text in _USUAL if key in values]
    told += [f"{', '.join(usual)} (common practice)"] if usual else []
    return f"Counts a minute: {'; '.join(told)}"


def _more(values: Values) -> str:
    """How many others there are like the one that is told."""
    many = values.get("many")
    more = many - 1 if isinstance(many, int) else 0
    return f" (and {more} more)" if more > 0 else ""


def _filling(values: Values) -> str:
    if values["phrases"] == 1:
        return f"fills its phrase of {values['phrase']}"
    return f"{_many(values['phrases'], 'phrase')} of {values['phrase']}"


def _by_phrase(values: Values) -> str:
    return f", by phrase {values['by_phrase']}" if values.get("by_phrase") else ""


def _pickup(values: Values) -> str:
    return f" after a pick-up of {_many(values['pickup'], 'count')}" if values.get("pickup") else ""


def _turn(values: Values) -> str:
    return " to the ".join(str(values["turn"]).rsplit(" ", 1))


def _number_of(key: str, what: str) -> Callable[[Values], str]:
    return lambda values: _many(values[key], what)


_MADE: dict[str, Callable[[Values], str]] = {
    "kind": _kind,
    "becomes": _becomes,
    "end": _end,
    "Count": lambda values: "Counts" if values.get("many") else "Count",
    "has": lambda values: "have" if values.get("many") else "has",
    "off_said": _off,
    "hang_said": _hang,
    "limits_said": _limits,
    "why_said": lambda values: _AWKWARD[str(values["why"])].format(**values),
    "more_said": _more,
    "said_counts": _number_of("said", "count"),
    "syllables_said": _number_of("syllables", "syllable"),
    "sounds_said": _number_of("sounds", "sound"),
    "counts_said": _number_of("counts", "count"),
    "phrases_said": _number_of("phrases", "phrase"),
    "filling": _filling,
    "phrase_said": _by_phrase,
    "pickup_said": _pickup,
    "turn_said": _turn,
    "in_said": lambda values: f"{values['run']}, " if values.get("run") else "",
    "where": lambda values: f"after {values['before']}" if values.get("before") else "at the start",
}
"""What a sentence says of its values, where that is not the value itself: made when a sentence asks for it."""


class _Said(dict[str, Value]):
    """Values as a sentence says them."""

    def __init__(self, values: Values) -> None:
        super().__init__((key, value) for key, value in values.items() if key not in _MADE)
        self._values = values

    def __missing__(self, key: str) -> str:
        return _MADE[key](self._values)


def sentence(finding: Finding) -> str:
    """A finding in one sentence."""
    said = KINDS[finding.code].sentence.format_map(_Said(finding.values))
    said = said.replace("the either foot", "either foot").replace("the  foot", "the foot")
    if finding.meant is not None:
        said += f" Meant so{f': {finding.meant}' if finding.meant else ''}."
    return said[:1].upper() + said[1:] if finding.code == "empty_count" else said


def label(mend: MendText) -> str:
    """What a mend does, in a few words."""
    return _LABELS[mend.code].format_map(_Said(mend.values))
