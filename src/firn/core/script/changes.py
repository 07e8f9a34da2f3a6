"""Changes to a script's text that touch one word and leave the rest as it was typed."""

from msgspec import Struct

from firn.core.script.tree import Bit, Counts, parse_line


class Change(Struct, frozen=True):
    """A change to the script: on a line of the part's text (from 0), from column to end, the new text."""

    line: int
    column: int
    end: int
    text: str


def changed_text(text: str, changes: tuple[Change, ...]) -> str:
    """A text with some changes made."""
    lines = text.split("\n")
    for change in sorted(changes, key=lambda c: (c.line, c.column), reverse=True):
        line = lines[change.line]
        lines[change.line] = (line[: change.column] + change.text + line[change.end :]).rstrip()
    return "\n".join(lines)


def counts_column(line: str, column: int) -> int | None:
    """Where the counts before a word begin; the word itself where it has none; None where others share them."""
    nodes, _ = parse_line(line)
    start = column
    for index, node in enumerate(nodes):
        if isinstance(node, Counts) and node.end <= column:
            between = [n for n in nodes[index + 1 :] if n.column < column]
            if all(isinstance(n, Counts) for n in between):
                return node.column
        if isinstance(node, Bit) and node.column >= column:
            break
    return start
