"""What no step is called: what is said of it, and which names are near to it."""

from msgspec.structs import replace

from firn.core.script.problems import Problem
from firn.core.script.said import own_names
from firn.core.steps.names import fold
from firn.core.steps.shelf import Shelf

LONGEST_NAME = 80
"""Letters up to which what is not known may be a slip."""


def unknown(name: str, column: int, end: int, shelf: Shelf, tradition: str) -> Problem:
    """What is wrong with a name that no step has; which are near to it, `with_near` tells."""
    shown = name if len(name) <= 40 else name[:39] + "…"
    broken = next((why for said, why in shelf.broken if said in fold(name)), "")
    theirs = shelf.called_so(name, tradition)
    message = f'No step is called "{shown}".'
    if broken:
        return Problem("N101", 0, column, end, broken)
    if theirs is not None and theirs.traditions:
        message = f'In {tradition} no step is called "{shown}": it is one of {" and ".join(theirs.traditions)}.'
    return Problem("N101", 0, column, end, message, unknown=name)


def with_near(problem: Problem, shelf: Shelf, tradition: str) -> Problem:
    """What is wrong, with the names that are near to one that no step has: looked for once, since it takes long."""
    name = problem.unknown
    if not name:
        return problem
    theirs = shelf.called_so(name, tradition)
    near = own_names(shelf, name, tradition) if theirs is not None and theirs.traditions else ()
    near = near or (shelf.nearest(name) if len(name) <= LONGEST_NAME else ())
    # What is another tradition's is known by that name: it is no help to say it again.
    near = tuple(one for one in near if one != fold(name))
    hint = f" Nearest: {', '.join(near)}." if near else ""
    return replace(problem, message=f"{problem.message}{hint}", nearest=near, unknown="")
