"""Printing figures, each with its target where there is one."""

import os
import platform


def heading(text: str) -> None:
    print(f"\n{text}")


def figure(name: str, value: str, target: str = "") -> None:
    print(f"  {name:<46} {value:<26} {target and 'wanted: ' + target}")


def machine() -> None:
    print(f"{platform.machine()}, {os.cpu_count()} cores, CPython {platform.python_version()}")
