"""Parts called in their teacher's own voice: said into the microphone, or taken from a recording."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QTimer

from firn.core.book.edits import SetCall
from firn.core.task import Task
from firn.errors import DeviceError, FirnError
from firn.files.formats import RECORDING
from firn.ui.work.context import Context, Handlers
from firn.ui.work.dancing import Dancing

if TYPE_CHECKING:
    from firn.core.sound.voices import FloatArray
    from firn.devices.duplex import OpenDuplex
    from firn.devices.recorder import Recorder
    from firn.ui.dialogs.own_call import OwnCallDialog

LISTENED_S = 3.0
"""So long is listened for a call."""

NO_MICROPHONE = "No microphone answers: choose a recording."


class OwnCalls(QObject):
    """Works on how the part on show is called."""

    def __init__(self, context: Context, dancing: Dancing, open_duplex: "OpenDuplex | None") -> None:
        super().__init__(context.window)
        self._context, self._dancing, self._open = context, dancing, open_duplex
        self._recorder: Recorder | None = None
        self._dialog: OwnCallDialog | None = None
        self._over = QTimer(self, singleShot=True, interval=round(LISTENED_S * 1000))
        self._over.timeout.connect(self._end)

    def handlers(self) -> Handlers:
        return {"own_call": self.ask}

    def ask(self) -> None:
        """Ask how the part on show, or the combo, is called."""
        from firn.ui.dialogs.own_call import OwnCallDialog

        context, desk, session = self._context, self._context.desk, self._context.bridge.session
        piece, part = desk.piece, desk.part_id
        if piece is None or not part:
            return
        if session.store.read_only:
            context.say("This workbook is open to read only: it takes no recording.")
            return
        kept = context.bridge.book.call_of(piece.id, part)
        dialog = OwnCallDialog(desk.title, kept=kept is not None, parent=context.window)
        self._dialog = dialog
        dialog.browse.connect(lambda: self._choose(dialog))
        dialog.record.connect(lambda: self._record(dialog))
        dialog.hear.connect(lambda: self._hear(dialog, part))
        accepted = context.prompts.run(dialog)
        self._dialog = None
        self._stop()
        self._dancing.stop()
        context.jobs.cancel("call")
        if not accepted:
            return
        if dialog.said is None or dialog.away:
            context.do(SetCall(piece.id, part, None, "Take the call away"))
            return
        from firn.session.calls import keep_call

        try:
            call = keep_call(session.store, piece.id, part, dialog.said)
        except FirnError as fault:
            context.say(str(fault))
            return
        context.do(SetCall(piece.id, part, call))
        context.say(f"{desk.title} is called in your own voice where it comes next in a drill.")

    def _choose(self, dialog: "OwnCallDialog") -> None:
        path = self._context.prompts.open_file(self._context.window, "A call", RECORDING.offered)
        if path is None:
            return

        def work(task: Task) -> "FloatArray | str":
            from firn.session.calls import call_of_file

            try:
                return call_of_file(path)
            except FirnError as fault:
                return str(fault)

        self._context.jobs.run("call", "Listening to the call", work, lambda made: _give(dialog, made))

    def _record(self, dialog: "OwnCallDialog") -> None:
        """Listen to the microphone for some seconds; again asked for, it ends at once."""
        if self._recorder is not None:
            self._end()
            return
        import numpy as np

        from firn.core.sound.voices import RATE
        from firn.devices.duplex import best_duplex
        from firn.devices.recorder import Recorder
        from firn.devices.reel import Reel

        self._dancing.stop()
        try:
            duplex, _ = (self._open or best_duplex)(lambda: np.zeros(1, np.float32))
            if duplex.simulated:
                dialog.refuse(NO_MICROPHONE)
                return
            self._recorder = Recorder(duplex, Reel(np.zeros((round((LISTENED_S + 1) * RATE), 2), np.float32), None))
            self._recorder.start()
        except DeviceError as fault:
            self._recorder = None
            dialog.refuse(str(fault))
            return
        dialog.tell("Say it …")
        self._over.start()

    def _end(self) -> None:
        heard, dialog = self._stop(), self._dialog
        if heard is None or dialog is None:
            return
        from firn.core.sound.voices import RATE
        from firn.session.calls import call_of

        try:
            _give(dialog, call_of(heard, RATE))
        except FirnError as fault:
            _give(dialog, str(fault))

    def _stop(self) -> "FloatArray | None":
        """What was heard, where the microphone is listened to."""
        recorder, self._recorder = self._recorder, None
        self._over.stop()
        return recorder.stop() if recorder is not None else None

    def _hear(self, dialog: "OwnCallDialog", part: str) -> None:
        import numpy as np

        from firn.core.sound.spoken import spoken
        from firn.session.calls import calls_of

        said, session, piece = dialog.said, self._context.bridge.session, self._context.desk.piece
        if said is None and piece is not None:
            word = spoken(calls_of(session.store, session.book, piece.id).get(part, ""))
            said = word[0] if word is not None else None
        if said is None:
            dialog.refuse("Its recording is damaged: say it anew.")
            return
        self._dancing.play_samples(np.repeat(said[:, None], 2, axis=1))


def _give(dialog: "OwnCallDialog", made: "FloatArray | str") -> None:
    if isinstance(made, str):
        dialog.refuse(made)
    else:
        dialog.take(made)
