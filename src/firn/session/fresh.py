"""What is new each time: identities, and the time now."""

import datetime
import os


def new_id() -> str:
    """An identity for a piece, part or take."""
    return os.urandom(8).hex()


def now() -> str:
    """The time now, as a workbook keeps it: ISO 8601 with its offset."""
    return datetime.datetime.now().astimezone().isoformat(timespec="seconds")
