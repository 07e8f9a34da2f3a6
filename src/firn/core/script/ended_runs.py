"""Runs as they end: feet that were said before their words, slows and quicks, and figures that are spelled out."""

from collections.abc import Sequence

from msgspec.structs import replace

from firn.core.script import said as say
from firn.core.script.choices import Open, OpenCode
from firn.core.script.items import FOOT_WRITTEN, Word, WordRun, of_no_foot
from firn.core.script.line_state import LineState
from firn.core.script.spelled import feet_before, said_of, spelled
from firn.core.script.tree import Bit

_LEAST_PACED = 3
"""Slows and quicks that are rather those of as many steps behind them than steps before these."""


def on_one_foot(run: Sequence[Word]) -> bool:
    """Whether a foot that is said behind some words is that of each, as they are one step that takes no weight, or
    parts of a foot: heel heel heel (R), toe heel toe heel L."""
    texts = {word.text.casefold() for word in run}
    plain = all(not word.side and not word.joined and word.times == 1 and word.card is not None for word in run)
    kept = plain and all(word.card is not None and word.card.weight_changes == 0 for word in run)
    return kept and (len(texts) == 1 or texts <= say.BARE.keys()) and not any(map(of_no_foot, run))


class EndedRuns(LineState):
    """Ends runs."""

    def _feet_alone(self, pause: Bit) -> None:
        """Take feet that a pause parts from what comes for a step with each: R L R L, stamp."""
        if self._feet_ahead is not None and not self._words and self._uncounted and ":" not in pause.text:
            (feet, said), self._feet_ahead = self._feet_ahead, None
            self._words = self._steps(feet, said)

    def _feet_taken(self) -> None:
        """Give the feet that were said before some words to them: one each, or one word with all of them."""
        if self._feet_ahead is None or not self._words:
            return
        (feet, said), self._feet_ahead = self._feet_ahead, None
        words = self._words
        if of_no_foot(words[0]) and not self._counts:
            # "R L R clap": a step with each, and then the clap.
            self._words = [*self._steps(feet, said), *words]
            return
        if len(words) == 1 and words[0].times == len(feet):
            words = [replace(words[0], times=1)]
        elif self._uncounted and len(words) == 1 and len(feet) > 1 and not (words[0].side or words[0].joined):
            lone = [replace(w, text=FOOT_WRITTEN[w.side].strip()) for w in self._steps(feet[:-1], said)]
            self._words = [*lone, replace(words[0], side=feet[-1])]
            return
        if len(words) not in (1, len(feet)) or any(w.side or w.joined or w.times > 1 for w in words):
            many = sum(word.times for word in words)
            self.problem("N103", said, f'"{said.text}" names {len(feet)} feet for {many} steps.')
            return
        each = words * len(feet) if len(words) == 1 else words
        made = [replace(word, side=foot) for word, foot in zip(each, feet, strict=True)]
        self._words = [replace(made[0], column=said.column), *made[1:]]

    def _over_all(self) -> None:
        """Have a foot that stands over some steps be that of each, where they keep theirs: right foot: heel, toe."""
        over, self._over = self._over, None
        run = self._words[over[1] :] if over is not None else []
        if over is not None and len(run) > 1 and run[0].side == over[0]:
            kept = [replace(run[0], side=""), *run[1:]]
            if on_one_foot(kept):
                self._words[over[1] :] = [replace(word, side=over[0]) for word in kept]

    def close(self) -> None:
        """End the run."""
        self._feet_alone(Bit("pause", "", 0, 0))
        self._over_all()
        self._feet_taken()
        # "L: 1 clap 2 stamp": the foot waits for the first step.
        stands = self._side is not None and bool(self._words) and not self.choices.before
        kept = self._side if self._side is not None and stands and self._stands_over(self._side[1]) else None
        for waiting in (
            self._side and not kept and self._side[1],
            self._join,
            *(w and w[1] for w in (self._many, self._feet_ahead)),
        ):
            if waiting:
                self.problem("N112", waiting, f'"{waiting.text}" has no word after it.')
        self._where_ahead = self._join = self._many = self._feet_ahead = None
        self._side = kept
        self._since = 0
        self._paced_steps()
        if self._counts and self._words and not self.choices.before and all(c.atoms[0].pace for c in self._counts):
            self._paced_apart(self._words[0])
        if self._uncounted and not self._counts and not self.choices.before:
            self._words = self._with_feet(self._spelled(self._words))
        if self._counts or self._words:
            self.items.append(WordRun(tuple(self._counts), tuple(self._words)))
        self._counts, self._words = [], []

    def end(self) -> None:
        """End the line: a foot that no step came for is said."""
        if self._side is not None:
            said = self._side[1]
            self.problem("N112", said, f'"{said.text}" has no word after it.')

    def _paced_steps(self) -> bool:
        """Take slow, quick, quick without a word for a step each; whether they are said so."""
        if not self._counts or self._words or not all(c.atoms[0].pace for c in self._counts):
            return False
        card = self.shelf.find("step", self.tradition)
        self._words = [Word(c.text, card, c.column, c.end) for c in self._counts]
        return True

    def _paced_apart(self, figure: Word) -> None:
        """Take "slow slow rock step" for two slow steps and a rock step; one before a figure of several may be its
        pace, which is noted."""
        paces = self._counts
        several = figure.card is not None and figure.card.weight_changes > 1
        between = self.text[paces[-1].end : figure.column]
        # "slow quick quick, stamp" are steps, and then a stamp.
        then = any(word in say.THEN for word in between.casefold().split())
        apart = then or any(sign in between for sign in ",;.")
        if any(c.atoms[0].number is not None for c in paces):
            return
        if not then and paces[-1].column < figure.column and self._paced_each(between):
            return
        if not (several or (apart and len(paces) > 1)):
            return
        if paces[0].column > figure.column and self._paced_sounds() == len(paces):
            # "rock step quick quick".
            return
        if paces[0].column > figure.column:
            said = f'"{paces[0].text}" says how long one step takes, and "{figure.text}" has several.'
            self.problem("N103", paces[0], said)
            self._counts = []
            return
        parted = apart or ":" in between
        if len(paces) == 1 and not parted:
            own = paces[0].column in self.choices.otherwise
            written = figure.said if own else f"{paces[0].text} step, {figure.said}"
            code: OpenCode = "paced" if own else "pace_steps"
            self.open.append(Open(code, paces[0].column, figure.end, written, 2 if own else 0))
            if own:
                self._counts = []
                return
        step = self.shelf.find("step", self.tradition)
        self.items.append(WordRun(tuple(paces), tuple(Word(c.text, step, c.column, c.end) for c in paces)))
        self._counts = []

    def _paced_sounds(self) -> int:
        """How many sounds the words have that paces may be of."""
        return sum(len(word.card.beats) * word.times for word in self._words if word.card is not None)

    def _paced_each(self, between: str) -> bool:
        """Whether slows and quicks are those of the sounds behind them, one for each: slow quick quick, forward side
        close. They may be steps before these, which is noted where a comma parts them, or some of these are of
        several sounds, and no colon says more. `between`: what stands between them."""
        paces, words = self._counts, self._words
        stated = ":" in between
        if self._paced_sounds() != len(paces) or len(paces) < _LEAST_PACED - stated:
            return False
        if stated or (len(words) == len(paces) and not between.strip()):
            return True
        column, end = paces[0].column, words[-1].end
        steps = column in self.choices.otherwise
        said, danced = self.text[column : paces[-1].end], self.text[words[0].column : end]
        before = ", ".join(f"{pace.text} step" for pace in paces)
        code: OpenCode = "pace_steps" if steps else "paced"
        written = f"{before}, {danced}" if steps else f"{said}: {danced}"
        self.open.append(Open(code, column, end, written, 2 if steps else 0))
        return not steps

    def _spelled(self, words: list[Word]) -> list[Word]:
        """Words without counts, with what is spelled sound by sound taken for the figure where that is tried."""
        made, done = [], 0
        noted: dict[str, int] = {}
        for start, end, card in spelled(words, self.text, self.shelf, self.tradition):
            first, last = words[start], words[end - 1]
            said = said_of(words[start:end])
            column = noted.setdefault(said, first.column)
            figure = column in self.choices.otherwise
            if column == first.column:
                code: OpenCode = "figure" if figure else "spelled"
                self.open.append(Open(code, column, last.end, card.name if figure else said, 2 if figure else 0))
            if figure:
                made += [*words[done:start], Word(card.name, card, first.column, last.end, side=first.side)]
                done = end
        return [*made, *words[done:]]

    def _with_feet(self, words: list[Word]) -> list[Word]:
        """Words without counts, with each step that several feet are said before taken as it is tried: the last foot
        is its own and the others are steps, it is danced with each of them, or all of them are steps before it."""
        made = list(words)
        # From the end, so that the places before stay.
        for start, end, ends in reversed(list(feet_before(words, self.text))):
            first, named = words[start], words[end - 1]
            many = end - start
            own, each, before = [*["step"] * (many - 1), named.text], [named.text] * many, ["step"] * many
            ways = [own, before]
            if ends:
                # "R L R flap" is rather one with each.
                ways.insert(0 if len(first.text) == 1 else 1, each)
            feet = [word.side for word in words[start:end]]
            # Read otherwise before it, a line may leave fewer ways.
            number = min(self.choices.meant(first.column), len(ways) - 1)
            way = ways[number]
            said = ", ".join(f"{FOOT_WRITTEN[foot]}{name}" for foot, name in zip(feet, way, strict=True))
            said += f", {named.text}" if way is before else ""
            self.open.append(Open("feet", first.column, named.end, said, 2 if number else 0, many=len(ways)))
            lone = words[start : end - 1]
            danced = [replace(named, side=w.side, column=w.column) for w in lone] if way is each else lone
            after = [replace(lone[0], side=named.side, column=named.column), replace(named, side="")]
            made[start:end] = [*danced, *(after if way is before else [named])]
        return made
