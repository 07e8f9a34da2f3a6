"""Every finding that a check may have: one entry each, with its sentence and where it belongs."""

from typing import Literal

from msgspec import Struct

FindingGroup = Literal[
    "Change the feet",
    "Write it again",
    "Count it again",
    "Put the layers together",
    "Face another way",
    "Choose the tempo",
    "Dance it in its style",
    "Good to know",
]
"""What a dancer would do about a finding, the most important first."""


class FindingKind(Struct, frozen=True):
    """A kind of finding: its code, its sentence with values in braces, and what is to be done about it.

    `check`: what a style sheet calls it where it may leave it out, "" where it may not. `on_read`: only good to know,
    and told on Read alone.
    """

    code: str
    sentence: str
    group: FindingGroup = "Good to know"
    check: str = ""
    on_read: bool = False


_KINDS = (
    FindingKind(
        "carries", "{word} on {count}: the {foot} foot carries the weight, so it cannot {kind}.", "Change the feet"
    ),
    FindingKind("already_down", "{word} on {count}: the {foot} {end} is already down.", "Change the feet"),
    FindingKind(
        "not_ready", "{word} on {count}: the {foot} foot is not where its {end} can drop.", "Change the feet"
    ),
    FindingKind("in_the_air", "{word} on {count} leaves the floor and does not land.", "Change the feet"),
    FindingKind(
        "not_carrying",
        "{word} on {count}: the {foot} foot does not carry the weight, so it cannot {kind}.",
        "Change the feet",
    ),
    FindingKind("not_picked_up", "{word} on {count}: the {foot} foot was not picked up.", "Change the feet"),
    FindingKind(
        "already_carries", "{word} on {count}: the {foot} foot carries the weight already.", "Change the feet"
    ),
    FindingKind("foot_up", "{word} on {count}: the {foot} foot is off the floor.", "Change the feet"),
    FindingKind(
        "awkward",
        "{word} on {count} can be danced, but awkwardly: {why_said}{more_said}.",
        "Change the feet",
        check="what is only awkward to dance",
    ),
    FindingKind("doubt", "“{said}” is read as {read}; it could be {others}.", "Write it again"),
    FindingKind("squeezed", "“{said}” has no room before the next count: it is read as {read}.", "Write it again"),
    FindingKind(
        "empty_count",
        "{Count} {counts} {has} neither a sound nor a hold.",
        "Count it again",
        check="counts with neither a sound nor a hold",
    ),
    FindingKind("claim", "It is said to have {said_counts}; it has {counts}.", "Count it again"),
    FindingKind("claimed", "It is said of it: {said}. But {but}.", "Count it again"),
    FindingKind(
        "odd_line",
        (
            "Line {line}, from {first} to {last}, has {counts_said}, the others {usual}: from there on all is {by} "
            "{way}."
        ),
        "Count it again",
        check="a line of another length than the others",
    ),
    FindingKind(
        "shifted_line",
        (
            "Line {line} dances line {before} again, but from {first}: {share} of a count {way} within its counts, "
            "as if that much had been {done} before it."
        ),
        "Count it again",
        check="a figure that comes again off its place",
    ),
    FindingKind("travel", "Travels {told}: ends {net}. Room for {room}.", check="where it travels to"),
    FindingKind(
        "both_ways",
        "Heard in {other}, {beat}: {said}; it hangs over by {their_score} there, by {score} in {meter}.",
        check="6/8 and 3/4 heard both ways",
        on_read=True,
    ),
    FindingKind(
        "in_pairs",
        (
            "Six counts over two bars, heard as three pairs (1-2, 3-4, 5-6): sounded of 1, 3, 5: {starts}; it hangs "
            "over by {their_score} there, by {score} in {meter}."
        ),
        on_read=True,
    ),
    FindingKind(
        "not_meant", 'Nothing is meant by "{what}": there is no such thing to look at here.', "Count it again"
    ),
    FindingKind(
        "syllables",
        "{syllables_said} for {sounds_said} in the lines above.",
        "Put the layers together",
        check="syllables for sounds",
    ),
    FindingKind(
        "sung",
        "{count} {said}: the rhythm that is sung and the steps differ there.",
        "Put the layers together",
        check="a sung rhythm and its steps",
    ),
    FindingKind(
        "cue_outside",
        "{what} on {count} ({layer}) lies outside the part.",
        "Put the layers together",
        check="layers past the end",
    ),
    FindingKind(
        "hand_twice",
        "The {hand} hand is to be in two places on {count}.",
        "Put the layers together",
        check="a hand in two places",
    ),
    FindingKind("fills", "{counts_said}: {filling}."),
    FindingKind("fills_part", "{counts_said}, {times} times in a phrase of {phrase}."),
    FindingKind(
        "off_phrase",
        (
            "{counts_said}: {by} too {way} for a phrase of {phrase}. It begins on {first}; after 1, 2, 4 and 8 times "
            "it would begin on {begins}. It comes round after {times} times, {all} counts."
        ),
        "Count it again",
        check="phrases that are not filled",
    ),
    FindingKind("again_same", "Ends with the {free} foot free: it stays on its side."),
    FindingKind("again_other", "Ends with the {free} foot free: it repeats on the other side by itself."),
    FindingKind("again_either", "Ends on both feet: either foot can begin again."),
    FindingKind(
        "again_neither", "Ends with the {free} foot free and cannot be danced again from there.", "Change the feet"
    ),
    FindingKind("not_syncopated", "{off_said} off the beat, none syncopated."),
    FindingKind(
        "syncopated",
        (
            "{off_said} off the beat; {hang_said} over a silent stronger beat, first {first} over {over}. "
            "Syncopation {score}{phrase_said} (Longuet-Higgins & Lee)."
        ),
        check="what hangs over",
    ),
    FindingKind(
        "thick",
        (
            "At {tempo:g} a minute: {rate:.1f} sounds a second, {most:.1f} in count {count}. Shortest gap "
            "{ms:.0f} ms ({from} to {to}), on one foot {foot_ms:.0f} ms ({foot}, {foot_from} to {foot_to})."
        ),
        check="sounds a second",
    ),
    FindingKind(
        "thick_no_foot",
        (
            "At {tempo:g} a minute: {rate:.1f} sounds a second, {most:.1f} in count {count}. Shortest gap "
            "{ms:.0f} ms ({from} to {to})."
        ),
    ),
    FindingKind(
        "same_foot_limit",
        (
            "The {foot} foot strikes again after {ms:.0f} ms ({from} to {to}): most feet take {bound:.0f} ms, at "
            "{limit:.0f} a minute."
        ),
        "Choose the tempo",
        check="the same foot again",
    ),
    FindingKind(
        "air_limit",
        (
            "From {from} to {to} both feet are in the air for {ms:.0f} ms: easily done is {bound:.0f} ms, from "
            "{limit:.0f} a minute up."
        ),
        "Choose the tempo",
        check="time in the air",
    ),
    FindingKind("limits", "{limits_said}.", on_read=True),
    FindingKind(
        "own_limit",
        "At {tempo:g} it has not been clean yet{on}: the fastest in the log is {clean}.",
        "Choose the tempo",
        check="what is clean in the log",
    ),
    FindingKind(
        "leaves_floor",
        "{word} on {count} leaves the floor{more_said}: in {style} it is slid or kept level.",
        "Dance it in its style",
        check="airborne",
    ),
    FindingKind(
        "accent_elsewhere",
        "{word} on {count} is leaned on{more_said}: {style} leans on the {accents}.",
        "Dance it in its style",
        check="accents",
    ),
    FindingKind(
        "closing_soft",
        "The last sound, {word} on {count}, is not leaned on: {style} closes with a stamp.",
        "Dance it in its style",
        check="the closing stamp",
    ),
    FindingKind(
        "not_equal",
        "{word} on {count} is louder{more_said}: in {style} all sounds are about equally loud.",
        "Dance it in its style",
        check="equal loudness",
    ),
    FindingKind(
        "pulse_held",
        "The hold on {count}: the pulse goes on through it, in {style} {pulse}.",
        "Dance it in its style",
        check="the pulse through holds",
    ),
    FindingKind(
        "pulse_other", "The pulse is not as in {style}: {pulse}.", "Dance it in its style", check="another pulse"
    ),
    FindingKind(
        "too_even",
        "In four counts it hangs over by {score:.3g}: {style} wants {wanted:g} or more (Longuet-Higgins & Lee).",
        "Dance it in its style",
    ),
    FindingKind(
        "too_syncopated",
        "In four counts it hangs over by {score:.3g}: {style} wants {wanted:g} or less (Longuet-Higgins & Lee).",
        "Dance it in its style",
    ),
    FindingKind(
        "too_slow",
        "{word}: not danced slower than {limit:g} counts a minute, and the piece is at {tempo:g}.",
        "Choose the tempo",
        check="slower than a card's floor",
    ),
    FindingKind(
        "too_fast",
        "{word}: not danced faster than {limit:g} counts a minute, and the piece is at {tempo:g}.",
        "Choose the tempo",
        check="faster than a card's ceiling",
    ),
    FindingKind(
        "tune_too_slow",
        "{tune} is at {tempo:g}: {word} in {part} is not danced slower than {limit:g} counts a minute.",
        "Choose the tempo",
        check="slower than a card's floor, at the tune's tempo",
    ),
    FindingKind(
        "tune_too_fast",
        "{tune} is at {tempo:g}: {word} in {part} is not danced faster than {limit:g} counts a minute.",
        "Choose the tempo",
        check="faster than a card's ceiling, at the tune's tempo",
    ),
    FindingKind(
        "tune_too_close",
        "{tune} is at {tempo:g}: in {part} {first} and {second} come within {ms:.0f} ms; one of them must go.",
        "Choose the tempo",
        check="two sounds too close, at the tune's tempo",
    ),
    FindingKind("tune_room", "{tune} is at {tempo:g}: there is room for one more sound between any two of {parts}."),
    FindingKind(
        "turns",
        "Turns {turn_said}: ends facing the {facing}, and the front again after {times} times.",
        "Face another way",
        check="where turns end",
    ),
    FindingKind("turns_front", "Its turns come out even: ends facing the front."),
    FindingKind(
        "walls",
        "Ends facing the {facing}, not the front ({after}); all {times} times through face the front again.",
        "Face another way",
    ),
    FindingKind("walls_front", "Ends facing the front ({after})."),
    FindingKind("silent_shift", "The weight goes over to the {foot} foot in silence on {count}{more_said}."),
    FindingKind(
        "stance", "{word} on {count} begins with the feet {begins}; {before} leaves them {ends}.", "Change the feet"
    ),
    FindingKind(
        "hand_and_leg",
        "On {count} the {side} hand is down and the {side} leg swings: in floor work they are opposite.",
        "Change the feet",
    ),
    FindingKind(
        "join_counts",
        "{part} is written from {from}, but after {before} comes {next}: it would be {counts_said} {way}{more_said}.",
        "Count it again",
    ),
    FindingKind(
        "join_stance",
        "{part} begins with the feet {begins} ({word}); after {after} they are {ends} ({last}).",
        "Change the feet",
    ),
    FindingKind("senses", "Turns {right} to the right and {left} to the left in all."),
    FindingKind(
        "join", "{part} begins on the {needed} foot, but {where} the {free} foot is free.", "Change the feet"
    ),
    FindingKind(
        "combo_cut",
        "It would have more than {limit:,} sounds: its first {passes} passes are danced, no more.",
        "Write it again",
    ),
    FindingKind("groups", "Danced by {all}: heard as {shown} dances it; what the others dance stands beside it."),
    FindingKind("ending", "An ending of {part} ({which}) is not danced. {fault}", "Count it again"),
    FindingKind("entry", "An entry of {part} ({which}) is not danced. {fault}", "Count it again"),
    FindingKind("over", "The line of {layer} over the parts is not as it is said. {fault}", "Write it again"),
    FindingKind("between", "{part} between the parts is not danced as it is said. {fault}", "Write it again"),
    FindingKind(
        "ending_open",
        "The ending “{ends}” of {part} ({which}) could begin on more than one such count: it is taken {from}.",
        "Write it again",
    ),
    FindingKind("ending_alike", "{part}, {which}: as long as it is written, and the {free} foot free as well."),
    FindingKind(
        "ending_differs",
        "{part}, {which}: {counts_said}, the {free} foot free; as written {written}, the {written_free}.",
    ),
    FindingKind(
        "combo_fills", "{counts_said}: {phrases_said} of {phrase}{pickup_said}, the {free} foot free at the end."
    ),
    FindingKind(
        "combo_off_phrase", "{in_said}{counts_said}: {by} off from whole phrases of {phrase}.", "Count it again"
    ),
    FindingKind("combo_changes", "{counts_said}: {told}; the {free} foot free at the end."),
)

KINDS = {kind.code: kind for kind in _KINDS}
"""The kinds by their codes."""
