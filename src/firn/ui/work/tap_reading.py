"""What was tapped, or heard in a clip, becomes a part's text: read, put right sound by sound and word by word, and
taken as one step."""

from collections.abc import Callable, Sequence
from fractions import Fraction
from typing import TYPE_CHECKING

from firn.core.book.edits import SetClip
from firn.errors import FirnError
from firn.session.stretch import part_stretch
from firn.ui.pages.write.page import WritePage
from firn.ui.work.context import Context
from firn.ui.work.tapped_along import Along

if TYPE_CHECKING:
    # Heavy: imported when something is first tapped.
    from firn.core.quantise.quantise import Quantised
    from firn.core.quantise.words import Fit
    from firn.core.timeline.timeline import Section
    from firn.session.corrected import Sounds
    from firn.session.read_so import ReadSo, Written
    from firn.session.tap_script import Tap
    from firn.session.word_by_word import WordByWord
    from firn.ui.pages.write.tapping import TapView

NUDGE_S = 0.002
"""By so much a sound begins earlier or later for each time that this is wished."""


class TapReading:
    """A reading on Write, of taps or of what was heard in a clip."""

    def __init__(self, context: Context, page: WritePage) -> None:
        self._context, self._page = context, page
        self._along: Along | None = None
        self._late = self._told = ""
        self._sung = False
        self._now: ReadSo | None = None
        self._made: Written | None = None
        # As it was before each change, the last one at the end.
        self._before: list[ReadSo] = []

    @property
    def view(self) -> "TapView":
        return self._page.tapping

    @property
    def now(self) -> "ReadSo | None":
        """What is on show; None for nothing."""
        return self._now

    def begin(self, along: Along | None, told: str = "", *, sung: bool = False) -> None:
        """Begin with nothing to read; `told`: what there is to say of what comes; `sung`: it is syllables."""
        self._along, self._told, self._late, self._sung = along, told, "", sung
        self._now, self._made, self._before = None, None, []

    def show(self, taps: "tuple[Tap, ...]", found: "Sequence[Quantised]", late: str) -> None:
        """Show taps as they can be read; `late`: how late they were, in a sentence."""
        from firn.session.read_so import ReadSo

        self._late, self._before, self._now = late, [], None
        self._become(ReadSo(taps, tuple(found), sung=self._sung))

    def wish(self, wish: str) -> None:
        """Do what is wished of the reading on show."""
        now = self._now
        if now is None:
            return
        if wish == "words":
            self._say_words(now, self.view.words.text().strip())
        elif wish == "undo":
            if self._before:
                self._become(self._before.pop(), kept=False)
        else:
            do: dict[str, Callable[[ReadSo], None]] = {
                "next": lambda now: self._change(at=(now.at + 1) % len(now.found), stood=None),
                "one": self._one_later,
                "passes": lambda now: self._change(once=not now.once, word=None),
                "against": lambda now: self._hold_against(now.read.tempo),
                "beside": lambda now: self._change(beside=not now.beside),
                "steps": lambda now: self._change(in_steps=not now.in_steps, word=None, ring=()),
                "before": lambda now: self._stand(now, -1),
                "after": lambda now: self._stand(now, 1),
                "hear": self._hear,
                "none": self._leave_out,
                "missing": self._put_in,
                "earlier": lambda now: self._nudge(now, -NUDGE_S),
                "later": lambda now: self._nudge(now, NUDGE_S),
                "up": lambda _: self._beside_word(-1),
                "down": lambda _: self._beside_word(1),
                "so": lambda _: self._say_so(),
                "other": lambda _: self._say_otherwise(),
                "in_turn": lambda _: self._hear_in_turn(),
            }
            do[wish](now)

    def _change(self, **fields: object) -> None:
        """Become what is on show with some of it otherwise."""
        from msgspec.structs import replace

        assert self._now is not None
        self._become(replace(self._now, **fields))

    def _become(self, now: "ReadSo", *, kept: bool = True) -> None:
        """Show what was tapped as it is read now; as it was before where no text says it."""
        from msgspec.structs import replace

        from firn.session.read_so import written

        settings, shelf = self._context.desk.settings, self._context.desk.shelf
        before = self._now if kept else None
        try:
            made = written(now, settings, shelf)
        except FirnError as fault:
            self._context.say(str(fault))
            if self._now is None:
                # Nothing says even these sounds: they are shown, and nothing is taken.
                self._now, self._made = now, None
                self.view.show_reading("No text says this", str(fault), "", ("again", "half", "double", "next"))
            return
        if before is not None and self._made is not None:
            self._before.append(before)
        self._now, self._made = replace(now, given=made.given), made
        self._show()

    def _one_later(self, now: "ReadSo") -> None:
        from firn.session.tapping import later

        beats = self._context.desk.settings.meter.counts
        # Round the bar: a count later each time, and back to where it was.
        by = beats - 1 if min(now.read.places) <= 1 - beats else -1
        self._change(found=(*now.found[: now.at], later(now.read, by), *now.found[now.at + 1 :]))

    def _say_words(self, now: "ReadSo", said: str) -> None:
        """Lay words onto all sounds, or onto those from the word on where one stands."""
        from firn.session.word_by_word import named_so

        self.view.setFocus()
        at = self._word_by_word()
        if at is None or at.here is None:
            self._change(words=said, in_steps=False, word=None)
            return
        if not said:
            return
        try:
            sounds = named_so(at, said, self._context.desk.settings, self._context.desk.shelf)
        except FirnError as fault:
            self._context.say(str(fault))
            return
        self.view.words.clear()
        self._said(sounds)

    def _hold_against(self, tempo: float) -> None:
        """Say how what was tapped differs from the part as it is written."""
        part, now = self._context.desk.part, self._now
        if part is None or now is None:
            return
        from firn.session.against import Against, held_against

        walls = self._along.walls if self._along is not None else ()

        def done(found: Against) -> None:
            if now is self._now and self.view.isVisible():
                self.view.said.setText(found.said)

        self._context.jobs.run(
            "tap", "Holding it against the part", lambda _: held_against(part, now.taps, tempo, walls), done
        )

    def _show(self) -> None:
        from msgspec.structs import replace

        from firn.core.piece.build import part_from
        from firn.session.read_so import likely, pass_marks, told

        now, made, desk = self._now, self._made, self._context.desk
        assert now is not None and made is not None
        at = self._word_by_word()
        if at is not None and at.here is not None:
            self._show_word(at)
        else:
            said = told(now, made, desk.settings)
            said += [one for one in (self._late, self._told) if one]
            words = "the syllables" if self._sung else "words for them"
            said.append(f"W: {words}, in order; ← → from sound to sound.")
            said += ["↑ ↓ from word to word."] if now.in_steps and not now.once else []
            heading = "   ".join(filter(None, ("Read so", likely(now))))
            self.view.show_reading(heading, " ".join(said), made.text, self._can(now, made), steps=now.in_steps)
        # Hands beside steps are seen over them.
        shown = f"{desk.text.rstrip()}\n{made.text}" if now.beside else made.text
        part = part_from(desk.title, shown, desk.settings, desk.shelf)
        marked = replace(part_stretch(part), titles=pass_marks(now, made))
        self._page.strip.show_stretch(marked, desk.view)
        if now.stood is not None:
            self._show_sound(now, now.stood)

    def _can(self, now: "ReadSo", made: "Written") -> set[str]:
        """What can be done with a reading."""
        from firn.session.read_so import hands_alone
        from firn.ui.pages.write.tapping import ALWAYS

        part, along = self._context.desk.part, self._along is not None
        more = {
            "next": len(now.found) > 1,
            "passes": made.laid is not None,
            "beside": not along and bool(self._context.desk.text.strip()) and hands_alone(now),
            "against": part is not None and bool(part.sounds),
            "hear": along,
            "undo": bool(self._before),
        }
        return {*ALWAYS, *(wish for wish, can in more.items() if can)}

    # From sound to sound

    def _stand(self, now: "ReadSo", step: int) -> None:
        """Stand on the next sound, or on the one before."""
        from msgspec.structs import replace

        stood = 0 if now.stood is None else max(0, min(len(now.taps) - 1, now.stood + step))
        self._now = replace(now, stood=stood, word=None, ring=())
        self._show_sound(self._now, stood)

    def _show_sound(self, now: "ReadSo", stood: int) -> None:
        """Show where a sound lies: on the strip, and in the clip's picture."""
        from firn.ui.pages.write.tapping import OF_A_SOUND

        read, tap = now.read, now.taps[stood]
        place = read.places[stood]
        after = next((p for p in read.places if p > place), place + 1)
        self._page.strip.show_chosen((place, after))
        away = 1000 * (tap.at_s - read.line.second(float(place)))
        late = f"{abs(away):.0f} ms {'after' if away > 0 else 'before'} its count"
        name = self._context.desk.settings.counting.name(place)
        said = f"{stood + 1} of {len(now.taps)}   on {name}, {late}, {read.sure[stood]:.0%} sure"
        only = {"take", "none", "undo"} if self._along is None else OF_A_SOUND
        self.view.show_standing(said, only if self._before else only - {"undo"})
        if self._along is not None:
            self._along.look(tap.at_s)

    def _correct(self, change: "Callable[[Sounds], Sounds]", stood: int) -> None:
        """Put the sounds right, and stand on one of them."""
        from msgspec.structs import replace

        from firn.session.read_so import corrected

        assert self._now is not None
        try:
            now = corrected(self._now, change)
        except FirnError as fault:
            self._context.say(str(fault))
            return
        self._become(replace(now, stood=min(len(now.taps) - 1, stood)))

    def _leave_out(self, now: "ReadSo") -> None:
        from firn.session.corrected import left_out

        if now.stood is not None:
            stood = now.stood
            self._correct(lambda sounds: left_out(sounds, stood), stood)

    def _put_in(self, now: "ReadSo") -> None:
        from firn.session.corrected import put_in

        if self._along is not None:
            at_s = self._along.stands_s
            self._correct(lambda sounds: put_in(sounds, at_s), sum(tap.at_s < at_s for tap in now.taps))

    def _nudge(self, now: "ReadSo", by_s: float) -> None:
        from firn.session.corrected import moved

        if now.stood is not None:
            stood = now.stood
            self._correct(lambda sounds: moved(sounds, stood, by_s), stood)

    def _hear(self, now: "ReadSo") -> None:
        at = self._word_by_word()
        if self._along is not None:
            stood = now.taps[now.stood or 0].at_s
            self._along.hear(stood if at is None or at.here is None else at.time_s[0])

    # From word to word

    def _word_by_word(self) -> "WordByWord | None":
        """Where one stands among the steps; None where it is not read as steps."""
        from firn.session.word_by_word import WordByWord

        now, made = self._now, self._made
        if now is None or made is None or made.steps is None or now.once:
            return None
        return WordByWord(now.sounds, made.steps, now.word, now.ring)

    def _beside_word(self, step: int) -> None:
        from msgspec.structs import replace

        from firn.session.word_by_word import beside

        at = self._word_by_word()
        if at is None:
            return
        there = beside(at, step)
        assert self._now is not None
        self._now = replace(self._now, word=there.at, ring=(), stood=None)
        self._show_word(there)

    def _show_word(self, at: "WordByWord") -> None:
        from firn.session.word_by_word import told
        from firn.ui.pages.write.tapping import OF_A_WORD

        here, made = at.here, self._made
        assert here is not None and made is not None
        heading, said = told(at, self._context.desk.settings, self._context.desk.shelf)
        can = set(OF_A_WORD) if self._along is not None else OF_A_WORD - {"in_turn", "hear"}
        can -= set() if self._before else {"undo"}
        can -= set() if here.others or at.ring else {"other"}
        said = f"{said} W names what begins here; ↑ ↓ from word to word.".strip()
        self.view.show_reading(heading, said, made.text, can, large=True, steps=True)
        self._page.strip.show_chosen((here.places[0], here.places[-1] + Fraction(1, 4)))
        if self._along is not None:
            self._along.look(at.time_s[0])

    def _say_so(self) -> None:
        from firn.session.word_by_word import confirmed

        at = self._word_by_word()
        if at is not None and at.here is not None:
            self._said(confirmed(at), on=True)

    def _say_otherwise(self) -> None:
        from firn.session.word_by_word import otherwise

        at = self._word_by_word()
        if at is not None and at.here is not None:
            self._said(*otherwise(at))

    def _said(self, sounds: "Sounds", ring: "tuple[Fit, ...]" = (), *, on: bool = False) -> None:
        """Take what was said of some sounds; `on`: the next word that nobody has said is looked at then."""
        from msgspec.structs import replace

        from firn.session.word_by_word import on_to_next

        assert self._now is not None
        self._become(replace(self._now, given=sounds.given, ring=ring, stood=None))
        at = self._word_by_word()
        if on and at is not None:
            there = on_to_next(at)
            self._now = replace(self._now, word=there.at, ring=())
            self._show_word(there)
        self._tell_anew()

    def _tell_anew(self) -> None:
        """Have what was said tell how the other sounds were struck."""
        from msgspec.structs import replace

        now = self._now
        if self._along is None or now is None:
            return

        def done(taps: "list[Tap]") -> None:
            if self._now is not None and self._now.taps is now.taps and self.view.isVisible():
                self._become(replace(self._now, taps=tuple(taps)), kept=False)

        self._along.told_anew(now.taps, now.given, done)

    def _hear_in_turn(self) -> None:
        """Hear the word where one stands as it is in the clip, then as it is written, at one speed."""
        from firn.session.word_by_word import model_of

        at, desk = self._word_by_word(), self._context.desk
        if at is None or at.here is None or self._along is None:
            return
        tempo = at.sounds.read.tempo

        def model(speed: float) -> "Section":
            return model_of(at, desk.settings, desk.shelf, tempo=tempo * speed)

        begin_s, end_s = at.time_s
        self._along.hear_in_turn(begin_s, end_s, model)

    # Taking it

    def take(self) -> None:
        """Write it into the part on show."""
        desk, now, made = self._context.desk, self._now, self._made
        if now is None or made is None or not made.text or desk.piece is None or desk.book_part is None:
            return
        before = desk.text.rstrip("\n")
        text = f"{before}\n{made.text}" if before.strip() else made.text
        self._page.show_tapping(False)
        self._page.strip.show_chosen(desk.transport.chosen)
        if self._along is None:
            desk.change(text, "Tap it in")
        else:
            clip = self._along.taken(now.read.line, self._shift(made.text, text))
            desk.commit()
            self._context.do(SetClip(desk.piece.id, desk.book_part.id, clip, text, "Take it off a clip"))
        self._page.show_desk()
        if self._along is None:
            self._page.editor.setFocus()
        else:
            self._along.left()

    def _shift(self, own: str, text: str) -> Fraction:
        """How many counts behind the part's beginning what was tapped begins."""
        from firn.core.piece.build import part_from

        desk = self._context.desk
        alone, whole = (part_from(desk.title, t, desk.settings, desk.shelf).sounds for t in (own, text))
        return whole[-1].position - alone[-1].position if alone and whole else Fraction(0)
