"""Findings in words: the one place where checks are put into English."""

from firn.core.reading.finding import Finding, MendText
from firn.core.steps.kinds import kind_said

_SENTENCES = {
    "carries": "{word} on {count}: the {foot} foot carries the weight, so it cannot {kind}.",
    "already_down": "{word} on {count}: the {foot} {end} is already down.",
    "not_ready": "{word} on {count}: the {foot} foot is not where its {end} can drop.",
    "in_the_air": "{word} on {count} leaves the floor and does not land.",
    "not_carrying": "{word} on {count}: the {foot} foot does not carry the weight, so it cannot {kind}.",
    "not_picked_up": "{word} on {count}: the {foot} foot was not picked up.",
    "already_carries": "{word} on {count}: the {foot} foot carries the weight already.",
    "foot_up": "{word} on {count}: the {foot} foot is off the floor.",
    "awkward": "{word} on {count} can be danced, but awkwardly: {why_said}{more_said}.",
    "empty_count": "{Count} {counts} {has} neither a sound nor a hold.",
    "claim": "It is said to have {said_counts}; it has {counts}.",
    "odd_line": (
        "Line {line}, from {first} to {last}, has {counts_said}, the others {usual}: from there on all is {by} {way}."
    ),
    "shifted_line": (
        "Line {line} dances line {before} again, but from {first}: {share} of a count {way} within its counts, as if "
        "that much had been {done} before it."
    ),
    "travel": "Travels {told}: ends {net}. Room for {room}.",
    "both_ways": ("Heard in {other}, {beat}: {said}; it hangs over by {their_score} there, by {score} in {meter}."),
    "in_pairs": (
        "Six counts over two bars, heard as three pairs (1-2, 3-4, 5-6): sounded of 1, 3, 5: {starts}; it hangs over "
        "by {their_score} there, by {score} in {meter}."
    ),
    "not_meant": 'Nothing is meant by "{what}": there is no such thing to look at here.',
    "syllables": "{syllables_said} for {sounds_said} in the lines above.",
    "cue_outside": "{what} on {count} ({layer}) lies outside the part.",
    "hand_twice": "The {hand} hand is to be in two places on {count}.",
    "fills": "{counts_said}: {filling}.",
    "fills_part": "{counts_said}, {times} times in a phrase of {phrase}.",
    "off_phrase": (
        "{counts_said}: {by} too {way} for a phrase of {phrase}. It begins on {first}; after 1, 2, 4 and 8 "
        "times it would begin on {begins}. It comes round after {times} times, {all} counts."
    ),
    "again_same": "Ends with the {free} foot free: it stays on its side.",
    "again_other": "Ends with the {free} foot free: it repeats on the other side by itself.",
    "again_either": "Ends on both feet: either foot can begin again.",
    "again_neither": "Ends with the {free} foot free and cannot be danced again from there.",
    "not_syncopated": "{off_said} off the beat, none syncopated.",
    "syncopated": (
        "{off_said} off the beat; {hang_said} over a silent stronger beat, first {first} over {over}. "
        "Syncopation {score}{phrase_said} (Longuet-Higgins & Lee)."
    ),
    "thick": (
        "At {tempo} a minute: {rate} sounds a second, {most} in count {count}. Shortest gap {ms} ms ({from} to "
        "{to}), on one foot {foot_ms} ms ({foot}, {foot_from} to {foot_to})."
    ),
    "thick_no_foot": (
        "At {tempo} a minute: {rate} sounds a second, {most} in count {count}. Shortest gap {ms} ms ({from} to {to})."
    ),
    "same_foot_limit": (
        "The {foot} foot strikes again after {ms} ms ({from} to {to}): most feet take {bound} ms, at {limit} a "
        "minute."
    ),
    "air_limit": (
        "From {from} to {to} both feet are in the air for {ms} ms: easily done is {bound} ms, from {limit} a minute "
        "up."
    ),
    "limits": "{limits_said}.",
    "own_limit": "At {tempo} it has not been clean yet{on}: the fastest in the log is {clean}.",
    "leaves_floor": "{word} on {count} leaves the floor{more_said}: in {style} it is slid or kept level.",
    "accent_elsewhere": "{word} on {count} is leaned on{more_said}: {style} leans on the {accents}.",
    "closing_soft": "The last sound, {word} on {count}, is not leaned on: {style} closes with a stamp.",
    "not_equal": "{word} on {count} is louder{more_said}: in {style} all sounds are about equally loud.",
    "pulse_held": "The hold on {count}: the pulse goes on through it, in {style} {pulse}.",
    "pulse_other": "The pulse is not as in {style}: {pulse}.",
    "too_even": "In four counts it hangs over by {score}: {style} wants {wanted} or more (Longuet-Higgins & Lee).",
    "too_syncopated": (
        "In four counts it hangs over by {score}: {style} wants {wanted} or less (Longuet-Higgins & Lee)."
    ),
    "too_slow": "{word}: not danced slower than {limit} counts a minute, and the piece is at {tempo}.",
    "too_fast": "{word}: not danced faster than {limit} counts a minute, and the piece is at {tempo}.",
    "turns": "Turns {turn_said}: ends facing the {facing}, and the front again after {times} times.",
    "turns_front": "Its turns come out even: ends facing the front.",
    "walls": "Ends facing the {facing}, not the front ({after}); all {times} times through face the front again.",
    "walls_front": "Ends facing the front ({after}).",
    "silent_shift": "The weight goes over to the {foot} foot in silence on {count}{more_said}.",
    "stance": "{word} on {count} begins with the feet {begins}; {before} leaves them {ends}.",
    "hand_and_leg": "On {count} the {side} hand is down and the {side} leg swings: in floor work they are opposite.",
    "join_counts": (
        "{part} is written from {from}, but after {before} comes {next}: it would be {counts_said} {way}{more_said}."
    ),
    "join_stance": "{part} begins with the feet {begins} ({word}); after {after} they are {ends} ({last}).",
    "senses": "Turns {right} to the right and {left} to the left in all.",
    "join": "{part} begins on the {needed} foot, but {where} the {free} foot is free.",
    "ending": "An ending of {part} ({which}) is not danced. {fault}",
    "combo_fills": "{counts_said}: {phrases_said} of {phrase}{pickup_said}, the {free} foot free at the end.",
    "combo_off_phrase": "{in_said}{counts_said}: {by} off from whole phrases of {phrase}.",
    "combo_changes": "{counts_said}: {told}; the {free} foot free at the end.",
}

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
    said = _SENTENCES[finding.code].format(**_spoken(finding.values))
    said = said.replace("the either foot", "either foot").replace("the  foot", "the foot")
    if finding.meant is not None:
        said += f" Meant so{f': {finding.meant}' if finding.meant else ''}."
    return said[:1].upper() + said[1:] if finding.code == "empty_count" else said


def label(mend: MendText) -> str:
    """What a mend does, in a few words."""
    return _LABELS[mend.code].format(**_spoken(mend.values))
