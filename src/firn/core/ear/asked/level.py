"""How hard the ear is asked: harder as it does well, by a staircase (Levitt 1971: two right up, one wrong down)."""

from collections.abc import Iterable

from firn.core.ear.asked.kinds import Given, QuestionKind

HARDEST = 4
UP_AFTER = 2


def level(answers: Iterable[Given], kind: QuestionKind) -> int:
    """How hard the next question of a kind is, 0 to `HARDEST`, after the answers given so far, oldest first."""
    now = run = 0
    for asked, right in answers:
        if asked != kind:
            continue
        run = run + 1 if right else 0
        if not right:
            now = max(0, now - 1)
        elif run == UP_AFTER:
            now, run = min(HARDEST, now + 1), 0
    return now
