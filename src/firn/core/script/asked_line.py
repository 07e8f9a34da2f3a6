"""Lines that may mean several things of which Firn takes none: they are asked about in a sentence, or noted.

Common practice, no source.
"""

import re
from collections.abc import Sequence
from itertools import pairwise, zip_longest

from msgspec.structs import replace

from firn.core.pattern import late
from firn.core.script import said as say
from firn.core.script.asked_feet import AskedFeet
from firn.core.script.choices import Open, OpenCode
from firn.core.script.collector import EIGHTS
from firn.core.script.dictated import taken_back
from firn.core.script.items import WordRun
from firn.core.script.places import counts_of
from firn.core.script.tokens import (
    between_pauses,
    count_of,
    is_name,
    is_often,
    is_said,
    name_at,
)
from firn.core.script.tree import (
    GROUP,
    OTHER,
    PAUSE,
    Bit,
    Counts,
    Group,
    Node,
    is_pause,
    is_word,
    number_alone,
    said_in,
)

_CROSSES = late(r"(?<![\w.])(\d{1,2})\s++x(?=\s|$)", re.IGNORECASE)
MOST_SHOWN = 80
"""Letters of a line that are said again."""
_PLACED = frozenset({"in place", "feet together", "feet apart", "backwards", "en el lugar", "en el sitio"})
"""Alone at a line's end it may be a step, or how the others are danced."""
_PLACED_LAST = frozenset(said.split()[-1] for said in _PLACED)
_JUMPS = frozenset({"jump", "jumps", "hop", "salto", "out"})
_SIDES = frozenset(say.SIDES)
_OFTEN = frozenset(say.ONCE_OR_MORE) | say.TIMES
_TIME = frozenset({"time"})
_MANNERS = say.MANNERS - {"backwards", "reverse", "reversed"}
_PACES = frozenset(word.casefold() for word in say.PACES if len(word) > 1)
_PACE = late("|".join(sorted(_PACES)), re.IGNORECASE)
_REPLACES = frozenset({"replace", "replaces", "replacing", "reemplaza"})
_TAKES, _OUT = frozenset({"take", "takes"}), frozenset({"out", "away"})
_LAST_COUNTS = late(
    r" *(?:(?:on|for|in|over) +)?(?P<said>(?:(?:the|los|las) +)?(?:last|final|[uú]ltim[oa]s) +"
    rf"(?:\d+|{'|'.join(say.NUMBERS)})? *(?:counts?|beats?|tiempos?)) *:",
    re.IGNORECASE,
)
_HALVES = frozenset({"odd", "even"})
_WHICH = _HALVES | {"every", "each", "all", "cada"}
_OTHER = frozenset({"other", "second", "single"})
_COUNT = say.COUNTED | {"count", "beat", "tiempo"}
_BY = frozenset({"by", "por"})
_PLACES = frozenset(say.WHERE)
"""Where steps go: said alone, each is a step there."""
_DASHES = ("-", "–", "—")


def _stands_for_none(count: Node, sign: Node, after: Node | None) -> bool:
    """Whether a dash or dots after a count say that nothing sounds on it."""
    if not isinstance(count, Counts) or not isinstance(sign, Bit) or sign.column == count.end:
        return False
    dots = sign.text in ("...", "…", "..") and isinstance(after, Counts)
    return dots or (sign.text in _DASHES and (after is None or is_pause(after)))


def _is_bar(node: Node) -> bool:
    return isinstance(node, Bit) and node.text == "|"


class AskedLine(AskedFeet):
    """Asks about what may be meant in several ways."""

    def _paced_over(self, nodes: Sequence[Node]) -> None:
        """Ask about a slow or a quick that is the line's only one and stands over it, or in brackets, or behind how
        often: slow: DS DS RS; DS RS (slow); step x4 quick."""
        if not nodes or not _PACE.search(self.text, nodes[0].column, nodes[-1].end):
            return
        within = [one for node in nodes for one in (node.items if isinstance(node, Group) else [node])]
        paces = [node for node in within if is_name(node, _PACES)]
        pace = paces[0] if len(paces) == 1 else None
        headed = len(nodes) > 1 and nodes[0] is pace and is_pause(nodes[1]) and ":" in nodes[1].text
        alone = any(isinstance(node, Group) and node.items[:1] == (pace,) and len(node.items) == 1 for node in nodes)
        led = [node for node in nodes[-3:-1] if not is_pause(node)][-1:]
        behind = bool(led) and nodes[-1] is pace and (isinstance(led[0], Group) or is_often(led[0]))
        if isinstance(pace, Bit) and (headed or alone or behind):
            shown = f'Say "{pace.text}" right before the step that it is said of; or leave it out.'
            self.problem("N109", pace, shown)

    def _within_others(self, nodes: Sequence[Node]) -> None:
        """Ask about what is said to be on several counts that steps before it take, from 1 on: step step step step,
        clap on 2 and 4."""
        if said_in(nodes).isdisjoint(say.ON):
            return
        steps: list[Node] = []
        for part in between_pauses(nodes):
            on = next((at for at, node in enumerate(part) if is_name(node, say.ON)), 0)
            numbers = [n for node in part[on:] if (n := number_alone(count_of(node))) is not None]
            # "dig, spank, step on 1 & 2": one count for each.
            several = bool(steps) and on > 0 and len(numbers) > 1
            each = several and sum(map(is_word, (*steps, *part[:on]))) == sum(isinstance(n, Counts) for n in part)
            # "stamp x4, clap on 2 and 4".
            each = each and not any(isinstance(node, Bit) and node.kind == "times" for node in steps)
            if several and not each and max(numbers) <= self._takes_counts(steps):
                said = self.text[part[0].column : part[-1].end].rstrip(" ,;.")
                shown = (
                    f'Say on which counts the steps before "{said}" are, or what is struck with which: step + clap.'
                )
                self.problem("N109", part[0], shown)
                return
            if on or any(isinstance(node, Counts) for node in part):
                # The first to be on a count tells: to look again behind each would not end.
                return
            steps += part

    def _last_counts(self) -> None:
        """Ask which counts are the last of a phrase that nobody has said the length of: the last two counts: stamp
        stamp."""
        head = _LAST_COUNTS.match(self.text, 0, MOST_SHOWN)
        if head is not None and not any(sign.isdigit() for sign in self.text[head.end() :]):
            shown = Bit("name", head["said"], head.start("said"), head.end("said"))
            self.problem("N109", shown, f'Say which counts "{shown.text}" are, such as 7-8.')

    def _on_every(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line without "on every count" and "on the odd counts", of which it is asked which these are."""
        if said_in(nodes).isdisjoint(_WHICH):
            return nodes
        made: list[Node] = []
        at = 0
        while at < len(nodes):
            which = at + 1 + is_said(nodes, at + 1, say.THE)
            ends = which + 1 + is_said(nodes, which + 1, _OTHER)
            asked = is_name(nodes[at], say.ON) and is_said(nodes, which, _WHICH) and is_said(nodes, ends, _COUNT)
            # "on every beat for four" says which.
            asked = asked and not is_said(nodes, ends + 1, say.FOR)
            if not asked or not made:
                made.append(nodes[at])
                at += 1
                continue
            column, end = nodes[at].column, nodes[ends].end
            shown = Bit("name", self.text[column:end], column, end)
            every = is_said(nodes, which, _WHICH - _HALVES) and ends == which + 1
            such = "1-8" if every else "2 4 6 8" if is_said(nodes, which, frozenset({"even"})) else "1 3 5 7"
            self.problem("N109", shown, f'Say which counts "{shown.text}" are, such as {such}.')
            at = ends + 1
        return made

    def _placed_at_end(self, nodes: Sequence[Node]) -> None:
        """Ask about what may be one more step at a line's end, or only say how the others are danced: flap heel, in
        place; stamp clap, backwards."""
        if not any(is_name(node, _PLACED_LAST) for node in nodes[-2:]):
            return
        parts = [[n for n in part if not is_pause(n)] for part in between_pauses(nodes)]
        parts = [part for part in parts if part]
        if len(parts) < 2:
            return
        *_, before, last = parts
        said = " ".join(node.text.casefold() for node in last if isinstance(node, Bit))
        if said in _PLACED and not is_name(before[-1], frozenset(say.WHERE) | say.BACK_AGAIN | _JUMPS):
            shown = Bit("name", said, last[0].column, last[-1].end)
            self.problem(
                "N109", shown, f'Say whether "{said}" is one more step, such as step in place; or leave it out.'
            )

    def _manner_at_end(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line without how it is danced, said at its end, which is asked about: stamp clap, swung; flap, even
        eighths."""
        if not any(is_name(node, _MANNERS | _TIME) for node in nodes[-2:]):
            return nodes
        *before, last = between_pauses(nodes)
        while before and not last:
            last = before.pop()
        said = [node for node in last if not is_pause(node)]
        shown = " ".join(node.text.casefold() for node in said if isinstance(node, Bit))
        manner = len(said) > 0 and all(is_name(node, _MANNERS) for node in said)
        if not before or not (manner or shown in say.MANNER_TIMES) or not any(is_word(n) for n in before[-1]):
            return nodes
        bit = Bit("name", shown, said[0].column, said[-1].end)
        self.problem("N109", bit, f'"{shown}" is not heard: say it by the counts, or in the head of the piece.')
        return [node for part in before for node in part]

    def _no_weight_first(self, nodes: Sequence[Node]) -> None:
        """Ask about steps that are said to take no weight before all of them: no weight: stamp stamp."""
        led = len(nodes) > 3 and is_name(nodes[0], say.WITHOUT) and is_name(nodes[1], say.WEIGHT)
        first = nodes[0] if led and is_pause(nodes[2]) and ":" in nodes[2].text else None
        if isinstance(first, Bit):
            shown = Bit("name", self.text[first.column : nodes[1].end], first.column, nodes[1].end)
            said = f'Say "{shown.text}" of each step: stamp without weight; or stomp for stamp, touch for step.'
            self.problem("N109", shown, said)

    def _dashes_for_holds(self, nodes: Sequence[Node]) -> None:
        """Ask about dashes, or full stops by themselves, that seem to be counts on which nothing sounds: step - step
        -, step - - step, step . step."""
        if said_in(nodes).isdisjoint((PAUSE, OTHER)) and _CROSSES.search(self.text) is None:
            return
        dots = ((a, b) for a, b in pairwise(nodes) if isinstance(b, Bit) and b.column > a.end)
        dot = next((b for _, b in dots if is_pause(b) and not b.text.strip(".…")), None)
        if dot is not None and not any(isinstance(node, Counts) for node in nodes):
            told = f'Say "hold" for a "{dot.text}" on which nothing sounds; a comma parts steps.'
            self.problem("N109", dot, told)
            return
        first, end = (nodes[0].column, nodes[-1].end) if nodes else (0, 0)
        crosses = list(_CROSSES.finditer(self.text, first, end))
        said = {n for node in nodes for n in (number_alone(node),) if n is not None} if crosses else set()
        for cross, after in zip_longest(crosses, crosses[1:]):
            number = int(cross[1])
            if after is not None and int(after[1]) == number + 2 and after.start() - cross.end() < 2:
                # "1 x 3 x": in place of 2 and 4.
                said |= {number - 1, number + 1}
            if number - 1 in said and (number + 1 in said or not self.text[cross.end() :].strip()):
                shown = Bit("name", "x", cross.end() - 1, cross.end())
                self.problem("N109", shown, 'Say "hold" for an "x" on which nothing sounds.')
                return
        for count, sign, after in zip(nodes, nodes[1:], nodes[2:], strict=False):
            numbers = number_alone(count), number_alone(after)
            neighbours = None not in numbers and numbers[1] == (numbers[0] or 0) + 1
            spaced = isinstance(sign, Bit) and sign.text in _DASHES and sign.column > count.end
            if neighbours and spaced and isinstance(sign, Bit):
                # "1 - 2 clap": on both, or nothing on 1.
                both = f"{numbers[0]}-{numbers[1]}"
                self.problem("N109", sign, f'Say "{both}" for both, or "hold" for a "-" on which nothing sounds.')
                return
        empty = next((b for a, b, c in zip(nodes, nodes[1:], (*nodes[2:], None), strict=False)
                      if _stands_for_none(a, b, c)), None)  # fmt: skip
        if isinstance(empty, Bit):
            # "1 step 2 step 3 -, 4 step", "3 ... 4 step".
            self.problem("N109", empty, f'Say "hold" for a "{empty.text}" on which nothing sounds.')
            return
        dashes = [at for at, node in enumerate(nodes) if isinstance(node, Bit) and node.text in _DASHES]
        counted = any(isinstance(node, Counts) for node in nodes)
        doubled = any(after == before + 1 for before, after in pairwise(dashes))
        # "- clap - clap": a bullet is alone.
        led = len(dashes) > 1 and dashes[0] == 0
        if dashes and not counted and (doubled or led or dashes[-1] == len(nodes) - 1):
            dash = nodes[dashes[-1]]
            assert isinstance(dash, Bit)
            self.problem(
                "N109", dash, f'Say "hold" for a "{dash.text}" on which nothing sounds; a comma parts steps.'
            )

    def _repeated_by_signs(self, nodes: Sequence[Node]) -> None:
        """Ask how often what stands before a sign that repeats it, or behind a number right before a bracket, is
        danced: flap stamp :|, 2(flap stamp)."""
        if said_in(nodes).isdisjoint((PAUSE, GROUP)):
            return
        for at, (sign, bar) in enumerate(pairwise(nodes)):
            ends = is_pause(sign) and ":" in sign.text and isinstance(bar, Bit) and bar.text == "|"
            behind = next((node for node in nodes[at + 1 :] if not _is_bar(node)), None)
            often = isinstance(behind, Bit) and behind.kind == "times"
            if ends and sign.end == bar.column and not often:
                shown = Bit("name", ":|", sign.column, bar.end)
                self.problem("N109", shown, 'Say how often this is danced, not ":|": ( stamp clap ) x2.')
                return
        number = number_alone(nodes[0]) if len(nodes) > 1 else None
        counted = sum(isinstance(node, Counts) for node in nodes)
        group = nodes[1] if len(nodes) > 1 else None
        if number and number > 1 and counted == 1 and isinstance(group, Group) and group.column == nodes[0].end:
            said = self.text[group.column + 1 : group.end - 1].strip()
            shown = Bit("name", str(number), nodes[0].column, nodes[0].end)
            written = f"( {said} ) x{number}; {number} {said}"
            self.problem("N109", shown, f"Say whether this is danced {number} times, or on {number}: {written}.")

    def _not_changed(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """Ask about what tells to change a line: replace the stamp with a clap, take out the clap."""
        if said_in(nodes).isdisjoint(_TAKES | _REPLACES):
            return nodes
        for at, node in enumerate(nodes):
            taken = is_name(node, _TAKES) and is_said(nodes, at + 1, _OUT)
            if not taken and not is_name(node, _REPLACES):
                continue
            start = at + 1 + taken
            start += is_said(nodes, start, say.THE)
            old = name_at(nodes, start, self._sounds_of)
            by = start + len(old)
            changed = is_name(node, _REPLACES) and (is_said(nodes, by, say.WITH | _BY))
            if isinstance(node, Bit) and old and (taken or changed):
                last = nodes[-1 if changed else by - 1]
                shown = Bit("name", self.text[node.column : last.end], node.column, last.end)
                self.problem("N109", shown, f'Write the line as it is danced after "{shown.text}".')
                return [*nodes[:at], *(nodes[start:by] if changed else nodes[by:])]
        return nodes

    def _not_taken_back(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line as it would be without what it takes back, which is asked about."""
        back = taken_back(nodes, self._sounds_of)
        if back is None:
            return nodes
        kept = self.text[nodes[0].column : nodes[back.kept - 1].end] if back.kept else ""
        after = self.text[nodes[back.anew].column : nodes[-1].end] if back.anew < len(nodes) else ""
        whole = " ".join(filter(None, (kept, after)))
        shown = whole if len(whole) <= MOST_SHOWN else f"{whole[: MOST_SHOWN - 1]}…"
        said = f'"{back.said.text}" seems to take something back. Say it as it is meant, perhaps: {shown}'
        self.problem("N109", back.said, said)
        return [*nodes[: back.kept], *nodes[back.anew :]]

    def _number_last(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line of several steps without the only number, at its end, that its last one falls on anyway; that all of
        it may be danced so often is noted: stamp stamp clap 3. Where it falls on another, it is asked about."""
        *steps, last = nodes or (None,)
        number = number_alone(last) if isinstance(last, Counts) else None
        if number is None:
            return nodes
        words = [node for node in steps if isinstance(node, Bit) and is_word(node)]
        held = bool(words) and is_name(words[-1], say.LASTS)
        if number < 2 or len(words) < len(steps) or held or not self._several(words):
            return nodes
        assert isinstance(last, Counts)
        said = self.text[words[0].column : words[-1].end]
        if self._takes_counts(words) != number:
            shown = Bit("name", last.text, last.column, last.end)
            self.problem(
                "N109", shown, f"Say what is on {number}, or how often all of it is danced: ( {said} ) x{number}."
            )
            return words
        every = last.column in self.choices.otherwise
        code: OpenCode = "all" if every else "alone"
        written = f"( {said} ) x{number}" if every else said
        self.open.append(Open(code, last.column, last.end, written, 4 if every else 0, since=words[0].column))
        often = Bit("times", f"x{number}", last.column, last.end)
        return [Group(tuple(words), words[0].column, words[-1].end), often] if every else words

    def _several(self, words: Sequence[Bit]) -> bool:
        """Whether some words are the names of more than one step, and nothing else."""
        names = 0
        while words:
            size = self._longest(words)
            if not size:
                return False
            words, names = words[size:], names + 1
        return names > 1

    def _times_first(self, nodes: Sequence[Node]) -> Sequence[Node]:
        """A line with how often that is said before all of its steps, and nothing else, taken as of the first alone,
        or of all, which is noted: 4x stamp clap."""
        often = nodes[0] if len(nodes) > 2 else None
        ahead = isinstance(often, Bit) and often.kind == "times" and often.text[0].isdigit()
        if not isinstance(often, Bit) or not ahead or not all(is_word(node) for node in nodes[1:]):
            return nodes
        words = [node for node in nodes[1:] if isinstance(node, Bit)]
        if self._longest(words) == len(words):
            return nodes
        every = often.column in self.choices.otherwise
        said, end = self.text[words[0].column : words[-1].end], words[-1].end
        first = self.text[words[0].column : words[self._longest(words) - 1].end]
        times = f"x{often.text.strip('xX× ')}"
        code: OpenCode = "all" if every else "alone"
        written = f"( {said} ) {times}" if every else f"{first} {times}{said[len(first) :]}"
        self.open.append(Open(code, often.column, end, written, 1 if every else 0))
        return [Group(tuple(words), words[0].column, end), replace(often, text=times)] if every else nodes

    def _takes_counts(self, nodes: Sequence[Node]) -> int:
        """How many counts some steps take one after another; 0 for what has counts of its own, or is no steps."""
        alone = self._alone(nodes)
        runs = [item for item in alone.items if isinstance(item, WordRun)]
        if alone.problems or len(runs) < len(alone.items) or any(run.counts for run in runs):
            return 0
        cards = [(word.card, word.times) for run in runs for word in run.words if word.card is not None]
        return sum(counts_of(card, EIGHTS, self.tradition) * times for card, times in cards)
