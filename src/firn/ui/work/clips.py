"""A clip on Write: looked at picture by picture or at any speed, tapped along, drafted from, kept with its part."""

from collections.abc import Callable, Sequence
from fractions import Fraction
from pathlib import Path
from typing import TYPE_CHECKING

from msgspec.structs import replace
from PySide6.QtCore import QRectF
from PySide6.QtGui import QImage, QPainter

from firn.core.book.clips import Clip, Walls, faced, next_wall
from firn.core.book.edits import SetClip
from firn.core.reading.walls import WALLS
from firn.core.task import Task
from firn.errors import FirnError
from firn.files.formats import RECORDING
from firn.session.fresh import new_id
from firn.ui.pages.entries import WRITE
from firn.ui.pages.write.page import WritePage
from firn.ui.player import Player
from firn.ui.work.clip_counts import ClipCounts
from firn.ui.work.clip_drafts import ClipDrafts
from firn.ui.work.clip_run import SPEEDS, ClipRun
from firn.ui.work.context import Context, Handlers
from firn.ui.work.tapping import Tapping

if TYPE_CHECKING:
    # Heavy: imported when a clip is first opened.
    from firn.core.meter.line import Line
    from firn.core.quantise.words import Fit
    from firn.core.sound.voices import FloatArray
    from firn.core.timeline.timeline import Section
    from firn.files.pictures import MediaPictures
    from firn.session.clips import OpenClip
    from firn.session.tap_script import Tap
    from firn.ui.frames import Frames
    from firn.ui.pages.write.clip import ClipView

AHEAD_S = 1.0
"""So long before its beginning a clip runs that is tapped along to."""

HEARD_S = 1.5
"""What is heard of a clip about one sound."""

BEFORE_S, BEHIND_S = 0.15, 0.35
"""What is heard of a clip before a word's first sound, and behind its last one."""

MOST_DRAFT_S = 600.0


class Clips:
    """The clip of the part on show."""

    def __init__(self, context: Context, page: WritePage, player: Player, tapping: Tapping) -> None:
        self._context, self._page, self._player, self._tapping = context, page, player, tapping
        # Told what paints the picture of a clip that is tied to the part's counts; None for no clip.
        self.pictured: Callable[[Callable[[QPainter, QRectF], None] | None], None] = lambda _: None
        self._clip: OpenClip | None = None
        self._part = ""
        self._run = ClipRun(context.jobs, player)
        self._frames: Frames | None = None
        self._line: Line | None = None
        self._counts = ClipCounts(context, page, self._counted)
        self._drafts = ClipDrafts(context, self._heard_of)
        # When walls are faced, in the clip's seconds.
        self.walls: Walls = ()
        self._at_s, self._begin_s, self._end_s = 0.0, 0.0, 0.0
        # Pictures on from where it stands that are wanted and not shown yet.
        self._steps = 0
        # What is danced to once the clip has stopped by itself, at its speed.
        self._then: Callable[[float], Section] | None = None
        self._connected = False

    def handlers(self) -> Handlers:
        return {"clip": self.show}

    @property
    def view(self) -> "ClipView":
        return self._page.clip

    @property
    def shown(self) -> bool:
        """Whether a clip is on show."""
        return self._clip is not None

    # Opening and leaving

    def show(self) -> None:
        """Show the clip of the part on show; ask for one where it has none."""
        desk = self._context.desk
        self._context.show_page(WRITE)
        if desk.piece is None or desk.on_combo or desk.book_part is None:
            self._context.say("A clip belongs to a part: choose one above.")
            return
        kept = self._context.bridge.book.clip_of(desk.book_part.id)
        if kept is None:
            self._ask()
            return
        from firn.session.clips import found_clip

        path = found_clip(kept, self._context.bridge.session.path)
        if path is None:
            self._context.say(
                f"{kept.name} is neither in {Path(kept.path).parent} nor beside the workbook: choose it."
            )
            self._ask(kept)
        else:
            self.open(path, kept)

    def _ask(self, kept: Clip | None = None) -> None:
        path = self._context.prompts.open_file(self._context.window, "Take steps off a clip", RECORDING.offered)
        if path is not None:
            self.open(path, kept)

    def open(self, path: Path, kept: Clip | None = None) -> None:
        """Open a clip above the strip, at its beginning or as it is kept with the part."""
        desk = self._context.desk
        self._context.show_page(WRITE)
        if desk.piece is None or desk.on_combo or desk.book_part is None:
            self._context.say("A clip belongs to a part: choose one above.")
            return
        from firn.session.clips import ClipSound, line_of, open_clip
        from firn.ui.frames import Frames

        try:
            clip = open_clip(path)
        except FirnError as fault:
            self._context.say(str(fault))
            return
        self._close()
        self._clip, self._run.sound, self._part = clip, ClipSound(clip), desk.book_part.id
        if clip.pictures is not None:
            self._frames = Frames(clip.pictures)
            self._frames.shown.connect(self._show_picture)
            self._frames.failed.connect(self._context.say)
            self._copy_beside(path)
        self._begin_s, self._end_s = (kept.begin_s, min(kept.end_s, clip.seconds)) if kept else (0.0, clip.seconds)
        self._line = line_of(kept) if kept is not None else None
        self.walls = kept.walls if kept is not None else ()
        self._run.speed = 0
        self._join()
        view = self.view
        view.picture.show_image(None)
        view.picture.mirrored, view.picture.near = bool(kept and kept.mirrored), 0
        self._page.show_clip(True)
        self._go(self._begin_s)
        self._shade()
        view.setFocus()

    def _copy_beside(self, path: Path) -> None:
        """Have a small copy of a film made whose pictures are slow to find; they are shown as they are until then."""
        frames = self._frames

        def work(task: Task) -> "MediaPictures | None":
            from firn.session.clips import make_copy

            return make_copy(path, task)

        def done(copy: "MediaPictures | None") -> None:
            if copy is None:
                return
            if frames is None or self._frames is not frames:
                copy.close()
                return
            frames.use(copy)

        self._context.jobs.run("copy", "Making the clip's pictures quick to find", work, done)

    def _join(self) -> None:
        if self._connected:
            return
        self._connected = True
        self.view.wished.connect(self._wish)
        self.view.moved.connect(lambda by: self._go(self._at_s + by))
        self.view.left.connect(self.leave)
        self._player.heard.connect(self._heard)
        self._player.ended.connect(self._ended)
        self._page.strip.walked.connect(self._walked)
        self._context.desk.turned.connect(self._turned)
        self._context.bridge.changed.connect(self._changed)

    def leave(self) -> None:
        """Put the clip away."""
        if self._clip is None:
            return
        self._close()
        self._page.show_clip(False)
        self._page.show_desk()
        self._page.editor.setFocus()

    def _turned(self) -> None:
        part = self._context.desk.book_part
        if self._clip is not None and (part is None or part.id != self._part):
            self._page.show_tapping(False)
            self.leave()

    def _changed(self) -> None:
        """Walls that are marked, or taken back, are shown as they are kept."""
        kept = self._context.bridge.book.clip_of(self._part) if self._clip is not None else None
        if kept is not None and kept.walls != self.walls:
            self.walls = kept.walls
            self._tell()
            self._show_walls()

    def _close(self) -> None:
        self.rest()
        for job in ("copy", "shade", "near", "counts", "anew"):
            self._context.jobs.cancel(job)
        self.view.close_up.show_levels(None)
        if self._frames is not None:
            self._frames.close()
        self.pictured(None)
        self.walls = ()
        self._page.strip.show_walls(())
        self._clip = self._frames = self._run.sound = self._line = None
        self._counts.forget()

    # Where it stands

    def _wish(self, wish: str) -> None:
        if self._clip is None:
            return
        do = {
            "run": self._toggle,
            "tap": lambda: self._tapping.begin_along(self),
            "draft": lambda: self._read(self._drafts.sounds),
            "sung": lambda: self._read(self._drafts.sung),
            "beats": lambda: self._read(self._counts.find),
            "along": lambda: self._tapping.begin_beats(self, self._counts.tapped),
            "half": lambda: self._counts.as_many(0.5),
            "double": lambda: self._counts.as_many(2),
            "one": lambda: self._counts.one_at(self.stands_s),
            "back": lambda: self._step(-1),
            "on": lambda: self._step(1),
            "slower": lambda: self._set_speed(self._run.speed + 1),
            "faster": lambda: self._set_speed(self._run.speed - 1),
            "begins": lambda: self._mark(begins=True),
            "ends": lambda: self._mark(begins=False),
            "again": lambda: self._go(self._begin_s),
            "place": self._ask_place,
            "mirror": self._mirror,
            "nearer": self._nearer,
            "wall": self._mark_wall,
            "whose": self._ask_whose,
            "other": self._ask,
            "forget": self._forget,
        }
        do[wish]()

    def _go(self, time_s: float) -> None:
        """Stand at a time."""
        if self._clip is None:
            return
        self.rest()
        self._at_s, self._steps = max(0.0, min(self._clip.seconds, time_s)), 0
        if self._frames is not None:
            self._frames.want(self._at_s)
        self._tell()

    def _step(self, by: int) -> None:
        self.rest()
        if self._frames is not None:
            self._steps += by
            self._frames.want(self._at_s, self._steps)
        else:
            self._go(self._at_s + by * 0.02)

    def _show_picture(self, image: QImage, time_s: float, number: int, itself: bool) -> None:
        if self._clip is None or self._frames is None:
            return
        if self._steps and number == self._frames.wanted:
            # A picture on, or back: there it stands now.
            self._at_s, self._steps = time_s, 0
        self.view.picture.show_image(image)
        if self._line is not None:
            # Tied to the counts it is seen where these are read from afar, too.
            self.pictured(self.view.picture.paint_in)
        which = "The picture" if itself else "A small picture"
        self.view.show_seen(f"{which} of {clock(time_s)}")
        if not self._run.on:
            self._tell()

    def _set_speed(self, speed: int) -> None:
        running = self._run.on
        self.rest()
        self._run.speed = max(0, min(len(SPEEDS) - 1, speed))
        self._tell()
        if running:
            self.run_from(self._at_s, self._run.until_s)

    def _mark(self, *, begins: bool) -> None:
        if self._clip is None:
            return
        at = self.now() if self._run.on else self._at_s
        if begins:
            self._begin_s = at
            self._end_s = self._end_s if self._end_s > at else self._clip.seconds
        else:
            self._end_s = at
            self._begin_s = self._begin_s if self._begin_s < at else 0.0
        self._tell()

    def _mark_wall(self) -> None:
        """Mark the wall that is faced here, the next to the right each time."""
        at = self.now() if self._run.on else self._at_s
        self.walls = next_wall(self.walls, at)
        desk = self._context.desk
        if desk.book_part is not None and self._context.bridge.book.clip_of(desk.book_part.id) is not None:
            kept = self._kept()
            self._context.do(SetClip(kept.piece, kept.part, kept, label="Mark a wall"))
        self._tell()
        self._show_walls()

    def _show_walls(self) -> None:
        """The walls on the strip, where the clip's time is tied to the counts."""
        line = self._line or self._counts.line
        marks = [(line.count(at), WALLS[wall]) for at, wall in self.walls] if line is not None else []
        # What is faced since before the part begins is where that does.
        before = [(0.0, said) for count, said in marks if count < 0][-1:]
        self._page.strip.show_walls([*before, *((count, said) for count, said in marks if count >= 0)])

    def _ask_place(self) -> None:
        said = self._context.prompts.name(self._context.window, "To a time", "Minutes and seconds", clock(self._at_s))
        if said is None:
            return
        at = seconds_of(said)
        if at is None:
            self._context.say(f'"{said}" is no time: write it as 1:31.5.')
        else:
            self._go(at)

    def _mirror(self) -> None:
        picture = self.view.picture
        picture.mirrored = not picture.mirrored
        picture.update()
        self._tell()

    def _nearer(self) -> None:
        from firn.ui.pages.write.clip import NEARER

        picture = self.view.picture
        picture.near = (picture.near + 1) % len(NEARER)
        picture.update()
        self._tell()

    def _tell(self) -> None:
        if self._clip is None:
            return
        at = self.now() if self._run.on else self._at_s
        speed = SPEEDS[self._run.speed]
        said = [f"At {clock(at)} of {clock(self._clip.seconds)}"]
        said.append("as fast as it was" if speed == 1 else f"at {speed:.0%} of its speed")
        if self._begin_s > 0 or self._end_s < self._clip.seconds:
            said.append(f"from {clock(self._begin_s)} to {clock(self._end_s)}")
        said += ["mirrored"] if self.view.picture.mirrored else []
        wall = faced(self.walls, at)
        said += [f"facing the {WALLS[wall]}"] if wall is not None else []
        counted = self._counts.said(self._begin_s, self._end_s) if self._line is None else ""
        tied = " Its time is tied to the counts: walk the strip, and the picture follows." if self._line else ""
        sound = "" if self._clip.sound else " It has no sound."
        whole = f"{', '.join(said)}.{sound}{tied} {counted}".rstrip()
        self.view.show_state(self._clip.path.name, whole, running=self._run.on)

    # Running

    def _toggle(self) -> None:
        if self._run.on:
            self.rest()
            self._tell()
            return
        inside = self._at_s < self._end_s - 0.05
        self.run_from(self._at_s if inside else self._begin_s, self._end_s)

    def run(self) -> None:
        """Let it run from a little before its beginning, to be tapped along to."""
        assert self._clip is not None
        self.run_from(max(0.0, self._begin_s - AHEAD_S), min(self._clip.seconds, self._end_s + AHEAD_S))

    def hear(self, time_s: float) -> None:
        """Let it run about one sound."""
        assert self._clip is not None
        self.run_from(max(0.0, time_s - HEARD_S / 3), min(self._clip.seconds, time_s + HEARD_S))

    def hear_in_turn(self, begin_s: float, end_s: float, model: "Callable[[float], Section]") -> None:
        """Let it run from one sound to another, and have the model dance the same after it, as slowly."""
        assert self._clip is not None
        self.run_from(max(0.0, begin_s - BEFORE_S), min(self._clip.seconds, end_s + BEHIND_S))
        self._then = model

    def _hear_model(self, model: "Callable[[float], Section]") -> None:
        speed, player = SPEEDS[self._run.speed], self._player

        def work(task: Task) -> "FloatArray":
            from firn.core.sound.model import render

            return render(model(speed), task).audio

        self._context.jobs.run("clip", "Making the model", work, player.play_samples)

    def told_anew(self, taps: "Sequence[Tap]", given: "Sequence[Fit]", done: "Callable[[list[Tap]], None]") -> None:
        """Have what somebody said of some sounds tell how the others were struck."""
        if self._clip is not None and self._clip.sound:
            self._drafts.told_anew(self._clip, taps, given, done)

    @property
    def grid(self) -> "Line | None":
        """Its counts, where they are known before anything of it is read."""
        return self._counts.line

    @property
    def stands_s(self) -> float:
        """The second at which it stands."""
        return self.now() if self._run.on else self._at_s

    def look(self, time_s: float) -> None:
        """Show what is seen at a time, and the sound there from near."""
        self._go(time_s)
        clip = self._clip
        if clip is None or not clip.sound:
            return
        from firn.session.clips import close_up

        self._context.jobs.run(
            "near", "Looking at the sound", lambda _: close_up(clip, time_s), self.view.close_up.show_levels
        )

    def run_from(self, begin_s: float, end_s: float) -> None:
        """Let it run from a time to another, at its speed."""
        if self._run.sound is None or end_s - begin_s < 0.02:
            return
        self.rest()
        self._steps = 0
        self._run.begin(begin_s, end_s, self._tell)

    def _heard(self, _: float) -> None:
        if not self._run.on:
            return
        at = self._at_s = self.now()
        self._run.more()
        if self._frames is not None:
            self._frames.want(at)
        if self._line is not None and self._page.strip.isVisible():
            self._page.strip.show_played(Fraction(round(self._line.count(at) * 1000), 1000))
        self._tell()

    def _ended(self) -> None:
        if self._run.ended(self._at_s):
            then, self._then = self._then, None
            self._tell()
            if then is not None:
                self._hear_model(then)

    def now(self) -> float:
        """The second of the clip that is heard now."""
        return self._run.now

    def rest(self) -> None:
        """Let it rest where it is."""
        self._then = None
        at = self._run.rest()
        self._at_s = self._at_s if at is None else at

    def left(self) -> None:
        """Tapping is over: what is done to the clip is shown again."""
        self.rest()
        self.view.close_up.show_levels(None)
        self._counted()
        self.view.setFocus()

    # Beside the part

    def _walked(self, index: int) -> None:
        stretch = self._page.strip.stretch
        if self._clip is not None and self._line is not None and stretch is not None and index < len(stretch.sounds):
            self._go(self._line.second(float(stretch.sounds[index].position)))

    def follow(self, position: Fraction, _: bool) -> None:
        """Show what is seen where the model is heard."""
        if self._clip is not None and self._line is not None and not self._run.on and self._frames is not None:
            self._frames.want(self._line.second(float(position)))

    def _shade(self) -> None:
        clip, part = self._clip, self._context.desk.part
        line = self._line or (self._counts.line if part is not None and not part.sounds else None)
        self._show_walls()
        if clip is None or line is None or part is None:
            self._page.strip.show_shade(())
            return
        from firn.session.clips import shade

        first, end = -1.0, float(part.counts) if part.sounds else line.count(self._end_s)
        self._context.jobs.run(
            "shade", "Reading the clip's sound", lambda _: shade(clip, line, first, end), self._page.strip.show_shade
        )

    def _counted(self) -> None:
        """Its counts are known, or otherwise than before: they are said, and seen along the strip."""
        self._tell()
        self._counts.show(self._end_s)
        self._shade()

    def _read(self, reads: "Callable[[OpenClip, float, float], None]") -> None:
        """Have the sound of the stretch read; a word why, where that cannot be."""
        clip = self._listened()
        if clip is not None:
            reads(clip, self._begin_s, self._end_s)

    def _heard_of(self, clip: "OpenClip", taps: "Sequence[Tap]", told: str, sung: bool) -> None:
        """What was heard of a clip is read, where that is still on show."""
        if self._clip is clip:
            self._tapping.read_sounds(self, taps, told, sung=sung)

    def _listened(self) -> "OpenClip | None":
        """The clip, made ready for its sound to be read; None, with a word why, where that cannot be."""
        clip = self._clip
        if clip is None:
            return None
        if not clip.sound:
            self._context.say("It has no sound: T taps along to it.")
            return None
        self.rest()
        if self._end_s - self._begin_s > MOST_DRAFT_S:
            self._context.say("Ten minutes at most are drafted at once: B and E say where the step begins and ends.")
            return None
        return clip

    def taken(self, line: "Line", shift: Fraction) -> Clip:
        """The clip as it is kept with the part that was taken off it."""
        self._line = replace(line, knots=line.knots + float(shift))
        return self._kept()

    def _kept(self) -> Clip:
        from firn.session.clips import fingerprint

        desk, clip = self._context.desk, self._clip
        assert clip is not None and desk.piece is not None and desk.book_part is not None
        old = self._context.bridge.book.clip_of(desk.book_part.id)
        size, digest = fingerprint(clip.path)
        line = self._line
        return Clip(
            old.id if old is not None else new_id(),
            desk.piece.id,
            desk.book_part.id,
            str(clip.path.resolve()),
            size,
            digest,
            round(self._begin_s, 3),
            round(self._end_s, 3),
            tuple(round(float(c), 4) for c in line.knots) if line is not None else (),
            tuple(round(float(s), 4) for s in line.seconds) if line is not None else (),
            self.view.picture.mirrored,
            old.said if old is not None else "",
            self.walls,
        )

    def _ask_whose(self) -> None:
        kept = self._kept()
        label = "Whose step, who taught it, when and where"
        said = self._context.prompts.name(self._context.window, "Whose step it is", label, kept.said)
        if said is not None:
            clip = replace(kept, said=said.strip()[:400])
            self._context.do(SetClip(kept.piece, kept.part, clip, label="Say whose step it is"))

    def _forget(self) -> None:
        desk = self._context.desk
        assert desk.piece is not None and desk.book_part is not None
        if self._context.bridge.book.clip_of(desk.book_part.id) is not None:
            self._context.do(SetClip(desk.piece.id, desk.book_part.id, None, label="Forget the clip"))
            self._context.say("The part has no clip any more; the file stays. Ctrl+Z brings it back.")
        self.leave()


def clock(seconds: float) -> str:
    """A time as minutes, seconds and hundredths: 1:31.50."""
    hundredths = round(seconds * 100)
    return f"{hundredths // 6000}:{hundredths % 6000 / 100:05.2f}"


def seconds_of(said: str) -> float | None:
    """A time said as seconds, minutes and seconds, or hours too; None for what is none."""
    parts = said.strip().replace(",", ".").split(":")
    try:
        numbers = [float(p) for p in parts]
    except ValueError:
        return None
    if not 1 <= len(numbers) <= 3 or any(not 0 <= n < 1e5 for n in numbers):
        return None
    return sum(n * 60.0**k for k, n in enumerate(reversed(numbers)))
