"""A class whose groups dance one part at several levels together: each checked, and beside the part as written."""

from collections.abc import Mapping, Sequence

from msgspec import Struct
from msgspec.structs import replace

from firn.core.book.book import BookPart, BookPiece
from firn.core.piece.build import part_from
from firn.core.piece.levels import How, levelled, lines_of, seated
from firn.core.piece.piece import Part
from firn.core.piece.versions import VersionError
from firn.core.reading.read import check_combo, check_part
from firn.core.reading.sentences import sentence
from firn.core.reading.style import Asked
from firn.core.steps.shelf import Shelf
from firn.errors import FirnError
from firn.session.beside import laid_beside
from firn.session.desk import free_name, whole_combo
from firn.session.fresh import new_id
from firn.session.paper import Paper, paper
from firn.session.stretch import part_stretch


class Wanted(Struct, frozen=True):
    """A level that is asked for: its name, how each line is danced (as written where nothing is said), and whether on
    a chair."""

    name: str
    hows: Mapping[int, How]
    chair: bool = False


class Level(Struct, frozen=True):
    """A level of a part: the part as it is danced then, what stands in for what, what the checks find, and where it
    differs: here, and there as written.

    `stands`: whether it can be danced beside the part as written: as long, the same foot free at the end.
    """

    wanted: Wanted
    part: Part
    said: str
    wrong: tuple[str, ...]
    differences: tuple[str, ...]
    stands: bool

    @property
    def told(self) -> str:
        """Which level it is and what is said of it: "Simpler: …"."""
        name = self.wanted.name.capitalize()
        return self.said if self.said.startswith(f"{name}: ") else f"{name}: {self.said or 'nothing wrong.'}"


def usual_levels(part: Part) -> tuple[Wanted, ...]:
    """Simpler, as written, harder, and on a chair where it is not danced on one already."""
    lines = lines_of(part)
    levels = (
        Wanted("simpler", dict.fromkeys(lines, "simpler")),
        Wanted("as written", {}),
        Wanted("harder", dict.fromkeys(lines, "harder")),
    )
    return levels if part.seated else (*levels, Wanted("seated", {}, chair=True))


def level_of(part: Part, wanted: Wanted, asked: Asked | None = None) -> Level:
    """A part at a level; where nothing stands in for its steps, as it is written, which is said."""
    made, said = part, []
    if any(how != "as written" for how in wanted.hows.values()):
        try:
            version = levelled(part, wanted.hows)
        except VersionError as fault:
            said.append(str(fault))
        else:
            said.append(version.said)
            made = _again(part, version.text)
    if wanted.chair:
        version = seated(made)
        said.append(version.said)
        made = _again(part, version.text)
    made = replace(made, name=f"{part.name} {wanted.name}") if made is not part else part
    wrong = tuple(sentence(f) for f in check_part(made, asked) if f.level == "bad")
    compared = laid_beside(made, part)
    alike = (made.counts, made.footing.free) == (part.counts, part.footing.free)
    # On a chair no foot carries, and either is free: the next part can begin as it is written.
    stands = alike or (made.seated and made.counts == part.counts)
    said.append(" ".join(wrong) if wrong else "" if made is part else f"{made.counts} counts, nothing wrong.")
    if not stands:
        said.append(f"It cannot be danced beside the others: {_unlike(part, made)}.")
    return Level(wanted, made, " ".join(filter(None, said)), wrong, compared.differences, stands)


def _again(part: Part, text: str) -> Part:
    return part_from(part.name, text, part.settings, part.script.shelf)


def _unlike(part: Part, made: Part) -> str:
    if part.counts != made.counts:
        return f"{made.counts} counts, where the part has {part.counts}"
    return f"it ends with {_foot(made)} free, where the part ends with {_foot(part)}"


def _foot(part: Part) -> str:
    free = part.footing.free
    return f"the {free} foot" if free in ("left", "right") else f"{free} foot"


def levels_paper(part: Part, asked: Asked | None = None) -> Paper:
    """A part's levels on paper, row by row below each other: those that are danced otherwise than it is written."""
    if not part.sounds:
        raise FirnError("There is nothing to print yet: it has no steps.")
    levels = [level_of(part, wanted, asked) for wanted in usual_levels(part)]
    shown = [one for one in levels if one.part is not part or one.wanted.name == "as written"]
    if len(shown) < 2:
        raise FirnError(f"{part.name} has no other level: no step of it has another that can stand in for it.")
    sheet = paper(part.settings, f"{part.name} at several levels", part_stretch(part), part.script.text, ())
    told = tuple(one.told for one in shown if one.said)
    beside = tuple((one.wanted.name.capitalize(), part_stretch(one.part)) for one in shown)
    return replace(sheet, stretch=None, beside=beside, sections=(("What stands in", told),))


def with_class(piece: BookPiece, part: Part, levels: Sequence[Level], shelf: Shelf) -> tuple[BookPiece, str]:
    """A piece with each level as a part, and a combo's line for each group, which all begin together; and what the
    checks say of them as one class.

    Raises FirnError where fewer than two levels are chosen, or one cannot be danced beside the others.
    """
    if len(levels) < 2:
        raise FirnError("A class of groups needs two levels: tick those that are danced.")
    for one in levels:
        if not one.stands:
            raise FirnError(one.told)
    parts, lines = list(piece.parts), []
    for number, one in enumerate(levels, 1):
        name = part.name
        if one.part is not part:
            name = free_name(tuple(parts), one.part.name)
            parts.append(BookPart(new_id(), name, "\n".join(one.part.script.lines)))
        lines.append(f"group {number}{', together' if number > 1 else ''}: {name}")
    combo = "\n".join([*filter(None, [piece.combo.rstrip()]), *lines])
    made = replace(piece, parts=tuple(parts), combo=combo)
    read, unfolded, _ = whole_combo(made, shelf)
    found = [sentence(f) for f in check_combo(read, unfolded) if f.level != "ok"]
    return made, " ".join([f"All {len(levels)} groups begin together and end together.", *found[:2]])
