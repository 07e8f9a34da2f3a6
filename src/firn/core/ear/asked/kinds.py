"""What the ear is asked: the kinds of questions, as they are kept with their answers."""

from typing import Literal

QuestionKind = Literal[
    "how_many", "what_missing", "early_or_late", "which_late", "even_or_swung", "which_foot", "same_or_changed",
    "where_is_one", "hold_or_none", "which_faster", "which_figure", "",
]  # fmt: skip

Given = tuple[QuestionKind, bool]
"""An answer: to what, and whether it was right."""
