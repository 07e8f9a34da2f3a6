"""Ctrl+C in the terminal, and a session that ends: the window closes as if it were asked to."""

import os
import signal

from PySide6.QtCore import QObject, QSocketNotifier
from PySide6.QtWidgets import QWidget


def close_at_signals(window: QWidget) -> QObject:
    """Close a window at SIGINT and SIGTERM; what is given must be kept as long as that shall hold.

    Python looks for signals only when it runs: the system wakes it through a pipe that Qt listens to.
    """
    listens, tells = os.pipe()
    for end in (listens, tells):
        os.set_blocking(end, False)
    signal.set_wakeup_fd(tells)
    notifier = QSocketNotifier(listens, QSocketNotifier.Type.Read, window)
    notifier.activated.connect(lambda: os.read(listens, 64))
    for one in (signal.SIGINT, signal.SIGTERM):
        signal.signal(one, lambda number, frame: window.close())
    return notifier
