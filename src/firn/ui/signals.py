"""Ctrl+C in the terminal, and a session that ends: the window closes as if it were asked to."""

import signal
import socket

from PySide6.QtCore import QObject, QSocketNotifier
from PySide6.QtWidgets import QWidget


def close_at_signals(window: QWidget) -> QObject:
    """Close a window at SIGINT and SIGTERM; what is given must be kept as long as that shall hold.

    Python looks for signals only when it runs: the system wakes it through a socket that Qt listens to.
    """
    listens, tells = socket.socketpair()
    for end in (listens, tells):
        end.setblocking(False)
    signal.set_wakeup_fd(tells.fileno())
    notifier = QSocketNotifier(listens.fileno(), QSocketNotifier.Type.Read, window)

    def woken() -> None:
        listens.recv(64)

    notifier.activated.connect(woken)
    # Held by the notifier, which ends with the window.
    notifier._sockets = (listens, tells)  # type: ignore[attr-defined]
    for one in (signal.SIGINT, signal.SIGTERM):
        signal.signal(one, lambda number, frame: window.close())
    return notifier
