"""What an older workbook says is kept as it was meant, as one step that can be taken back, and told."""

from firn.core.book.book import Book
from firn.core.book.edits import SetTexts
from firn.core.piece.kept import kept
from firn.session.desk import settings_of

LABEL = "Keep what older lines mean"


def kept_meaning(book: Book) -> tuple[SetTexts | None, str]:
    """The change that keeps the meaning of a workbook's older lines, None for none; and what is to be said of it."""
    texts: list[tuple[str, str, str]] = []
    lines = 0
    open_parts: list[str] = []
    for piece in book.pieces:
        settings = settings_of(piece.head)
        for part in piece.parts:
            made = kept(part.name, part.text, settings)
            if made.text != part.text:
                texts.append((piece.id, part.id, made.text))
                lines += made.lines
            if not made.whole:
                open_parts.append(f"{settings.name}, {part.name}")
    said = []
    if texts:
        many = "1 line" if lines == 1 else f"{lines} lines"
        said.append(f"This workbook is older: {many} that would read otherwise now say in full what was meant.")
        said.append("Ctrl+Z takes that back.")
    if open_parts:
        said.append(f"Look over what may read otherwise now: {'; '.join(open_parts[:4])}.")
    return (SetTexts(tuple(texts), LABEL) if texts else None), " ".join(said)
