"""A take that has been listened to: its sound, its onsets, and the verdict on it."""

from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING

from firn.core.book.book import Take
from firn.core.piece.piece import Part
from firn.core.task import UNWATCHED, Task

if TYPE_CHECKING:
    # Heavy ones: imported when a take is first listened to, not when Firn starts.
    from firn.core.ear.asked.question import Question
    from firn.core.ear.match import Match
    from firn.core.ear.onsets import Onsets
    from firn.core.ear.routine import Routine
    from firn.core.ear.shoes import Shoes
    from firn.core.ear.verdict import Verdict
    from firn.core.piece.unfold import Unfolded
    from firn.files.audio import FloatArray


class HeardTake:
    """A take that has been listened to. `fault`: why there is no verdict; `wrong`: what it is instead of this part;
    `asked`: the ear has answered. Of a take of a combo `routine` is what was danced, and `marks` what was heard of
    each of its sounds."""

    def __init__(self, take: Take, sound: "FloatArray", rate: int, onsets: "Onsets") -> None:
        self.take, self.sound, self.rate, self.onsets = take, sound, rate, onsets
        self.verdict: Verdict | None = None
        self.routine: Routine | None = None
        self.marks: dict[int, tuple[str, float | None]] = {}
        self.facts: tuple[str, ...] = ()
        self.fault = ""
        self.wrong: Match | None = None
        self.asked = False

    def questions(self, part: Part) -> "Sequence[Question]":
        """What the ear is asked about it; the same each time."""
        if self.verdict is None:
            return ()
        import numpy as np

        from firn.core.ear.asked.take import questions

        seed = int(self.take.audio[:8], 16) if self.take.audio else 0
        return questions(part, self.verdict, np.random.default_rng(seed))

    def judge_combo(self, whole: "Unfolded", *, on_ms: float) -> None:
        """Judge it as a take of a whole combo, cut into its passes."""
        from firn.core.ear.routine import routine
        from firn.core.ear.undisturbed import routine_of
        from firn.core.ear.verdict import NothingHeard
        from firn.session.listening import routine_marks

        try:
            self.routine = routine_of(
                self.onsets,
                self.sound,
                self.rate,
                lambda heard: routine(whole.passes, self.take.tempo, heard, on_ms=on_ms),
            )
            self.marks = routine_marks(self.routine, whole)
        except NothingHeard as fault:
            self.fault = str(fault)

    def judge(
        self,
        part: Part,
        *,
        on_ms: float,
        line: tuple[float, float] | None = None,
        beside: Sequence[Part] = (),
        anyway: bool = False,
        shoes: "Callable[[], Shoes | None]" = lambda: None,
        task: Task = UNWATCHED,
    ) -> None:
        """Judge it as a take of a part; from the click where it was made to one, unless a start is chosen.

        `beside`: other parts that it might be a take of; `anyway`: judge it whatever it may be; `shoes`: learns what
        they sound like.
        """
        from firn.core.ear.verdict import NothingHeard, WrongTake
        from firn.core.ear.whole import whole
        from firn.core.ear.words import facts, order_facts, otherwise_facts
        from firn.session.takes import judged

        self.verdict, self.fault, self.wrong = None, "", None
        try:
            known = shoes()
            self.verdict = judged(
                part,
                self.take,
                self.onsets,
                self.sound,
                self.rate,
                on_ms=on_ms,
                line=line,
                beside=beside,
                anyway=anyway,
                shoes=lambda: known,
                task=task.within(0.2, 1),
            )
            struck = [*order_facts(part, self.verdict), *otherwise_facts(part, self.verdict)]
            if self.verdict.otherwise and known is not None:
                struck.append(f"What struck is told by how “{known.of}” sounds, which was clean.")
            self.facts = (*struck, *facts(part, whole(part, self.verdict)))
        except WrongTake as fault:
            self.fault, self.wrong = str(fault), fault.match
        except NothingHeard as fault:
            self.fault = str(fault)

    def stereo(self, start_s: float = 0.0, end_s: float | None = None) -> "FloatArray":
        """A stretch of the take at Firn's own rate, both sides, brought to an even loudness."""
        import numpy as np

        from firn.core.sound.voices import RATE

        first = max(0, round(start_s * self.rate))
        last = len(self.sound) if end_s is None else min(len(self.sound), round(end_s * self.rate))
        piece = self.sound[first:last].astype(np.float64)
        if self.rate != RATE and len(piece):
            from scipy.signal import resample_poly

            piece = resample_poly(piece, RATE, self.rate)
        peak = float(np.abs(piece).max()) if len(piece) else 0.0
        if peak > 0:
            piece = piece * min(4.0, 0.5 / peak)
        return np.repeat(piece.astype(np.float32)[:, None], 2, axis=1)
