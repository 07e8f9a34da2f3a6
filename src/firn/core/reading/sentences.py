"""Findings in words: the one place where checks are put into English."""

from firn.core.reading.finding import Finding, MendText
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
    ("same_foot", "the same foot again takes {1} ms at {0}"),
    ("any", "two sounds come within {1} ms at {0}"),
    ("air", "the air lasts no longer than {1} ms from {0} up"),
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
    "write_pulse": "write pulse: {pulse}",
    "in_rest": "{becomes} in the hold on {count}",
}


def _many(number: str, what: str) -> str:
    return f"{number} {what}" if number == "1" else f"{number} {what}s"


def _spoken(values: dict[str, str]) -> dict[str, str]:
    said = dict(values)
    for key in ("kind", "becomes"):
        if key in said:
            said[key] = kind_said(said[key])
    said["end"] = {"toe": "toe"}.get(values.get("kind", ""), "heel")
    said["Count"], said["has"] = ("Counts", "have") if values.get("many") else ("Count", "has")
    said["off_said"] = "Nothing" if values.get("off") == "0" else _many(values.get("off", ""), "sound")
    said["hang_said"] = "1 hangs" if values.get("many") == "1" else f"{values.get('many', '')} hang"
    told = [text.format(values[key]) for key, text in _LIMITS if key in values]
    usual = [text.format(values[key], values.get(f"{key}_ms")) for key, text in _USUAL if key in values]
    told += [f"{', '.join(usual)} (common practice)"] if usual else []
    said["limits_said"] = f"Counts a minute: {'; '.join(told)}"
    more = int(values["many"]) - 1 if values.get("many", "").isdigit() else 0
    said["why_said"] = _AWKWARD.get(values.get("why", ""), "").format(**values)
    said["more_said"] = f" (and {more} more)" if more > 0 else ""
    said["said_counts"] = _many(values.get("said", ""), "count")
    said["syllables_said"] = _many(values.get("syllables", ""), "syllable")
    said["sounds_said"] = _many(values.get("sounds", ""), "sound")
    said["counts_said"] = _many(values.get("counts", ""), "count")
    said["phrases_said"] = _many(values.get("phrases", ""), "phrase")
    said["filling"] = f"{said['phrases_said']} of {values.get('phrase', '')}"
    if values.get("phrases") == "1":
        said["filling"] = f"fills its phrase of {values.get('phrase', '')}"
    said["phrase_said"] = f", by phrase {values['by_phrase']}" if values.get("by_phrase") else ""
    said["pickup_said"] = f" after a pick-up of {_many(values['pickup'], 'count')}" if values.get("pickup") else ""
    said["turn_said"] = " to the ".join(values.get("turn", "").rsplit(" ", 1))
    said["in_said"] = f"{values['run']}, " if values.get("run") else ""
    said["where"] = f"after {values['before']}" if values.get("before") else "at the start"
    return said


REASONS = {
    "written": "as written",
    "lead": "the lead foot",
    "card": "as the step goes",
    "free": "the free foot",
    "carries": "the foot that carries",
    "choice": "either could",
}
"""Why a sound is on its foot, by `Sound.reason`."""


def sentence(finding: Finding) -> str:
    """A finding in one sentence."""
    said = KINDS[finding.code].sentence.format(**_spoken(finding.values))
    said = said.replace("the either foot", "either foot").replace("the  foot", "the foot")
    if finding.meant is not None:
        said += f" Meant so{f': {finding.meant}' if finding.meant else ''}."
    return said[:1].upper() + said[1:] if finding.code == "empty_count" else said


def label(mend: MendText) -> str:
    """What a mend does, in a few words."""
    return _LABELS[mend.code].format(**_spoken(mend.values))
