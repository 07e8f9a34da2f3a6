"""The window; the only importer of Qt."""

import builtins
import gc

# What is imported stays: looking through it for what could go costs a fifteenth of the start. Until the window is
# there (`start.build`) nothing is looked through.
gc.set_threshold(500_000, 20, 50)

from firn.ui import late_support, quick_enums  # noqa: E402

with late_support.late_support():
    import PySide6.QtCore  # noqa: F401

quick_enums.install()

# At every import, also of what is not Qt's, Qt for Python asks whether its `__feature__` is wanted: 30 ms of the 150
# that ours take at the start. Nothing here wants it.
builtins.__import__ = getattr(builtins, "__orig_import__", builtins.__import__)
