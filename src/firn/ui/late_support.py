"""What Qt for Python keeps for its signatures, made when it is first asked for.

At every import of Qt for Python its support files are compiled anew from an archive within a library: an eighth of
the whole start. Most of them only serve the signatures in error messages and help, and stubs for editors.
"""

import builtins
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

FOLDER = "shibokensupport/signature/"
LATE = frozenset(
    f"{FOLDER}{name}.py" for name in ("layout", "parser", "lib/enum_sig", "lib/pyi_generator", "lib/tool")
)
_EMPTY = """
def __getattr__(name):
    from firn.ui.late_support import filled
    return filled(globals(), name)
"""
_usual = builtins.compile
_sources: dict[str, Any] = {}
_filling = threading.RLock()


@contextmanager
def late_support() -> Iterator[None]:
    """While Qt for Python is imported: such files of it are empty modules, each filled when something of it is asked
    for."""

    def compiled(source: Any, filename: Any, mode: str, *more: Any, **named: Any) -> Any:
        if filename in LATE and mode == "exec":
            _sources[filename] = source
            source = _EMPTY
        return _usual(source, filename, mode, *more, **named)

    builtins.compile = compiled
    try:
        yield
    finally:
        builtins.compile = _usual


def filled(module: dict[str, Any], name: str) -> Any:
    """A name of such a module, which is filled first."""
    with _filling:
        source = _sources.pop(module.get("__file__", ""), None)
        if source is not None:
            module.pop("__getattr__", None)
            exec(_usual(source, module["__file__"], "exec"), module)
    if name not in module:
        raise AttributeError(f"module {module.get('__name__')!r} has no attribute {name!r}")
    return module[name]
