"""How hard the ear is asked: harder as it does well, by a staircase (Levitt 1971: two right up, one wrong down)."""

from collections.abc import Iterable

from firn.core.book.log import Answer, QuestionKind

HARDEST = 4
UP_AFTER = 2


def level(answers: Iterable[Answer], kind: QuestionKind) -> int:
    """How hard the next question of a kind is, 0 to `HARDEST`, after the answers given so far, oldest first."""
    now = run = 0
    for answer in answers:
        if answer.kind != kind:
            continue
        run = run + 1 if answer.right else 0
        if not answer.right:
            now = max(0, now - 1)
        elif run == UP_AFTER:
            now, run = min(HARDEST, now + 1), 0
    return now
