"""A recording or film that a part was taken off, or music that a piece is danced to: where it is, which stretch, how
its seconds lie on the counts."""

from msgspec import Struct

Walls = tuple[tuple[float, int], ...]
"""When a wall is faced, in seconds, ascending, and which, in eighths of a turn to the right from the front."""

NEAR_WALL_S = 0.25
"""A wall that is marked so near another is that one anew."""

QUARTER = 2


class Clip(Struct, frozen=True):
    """A clip of a part, or of a piece its music: `part` is then the piece's own id. The file stays where it is and is
    known by its size and a digest of its content.

    `begin_s` to `end_s`: the stretch that was looked at. `counts` and `seconds`: knots of the line that ties the
    part's counts to the clip's time, none where it is not known. `mirrored`: it is looked at mirrored. `said`: whose
    step it is, who taught it, when and where. `walls`: those faced, by the clip's
    seconds.
    """

    id: str
    piece: str
    part: str
    path: str
    size: int
    digest: str
    begin_s: float
    end_s: float
    counts: tuple[float, ...] = ()
    seconds: tuple[float, ...] = ()
    mirrored: bool = False
    said: str = ""
    walls: Walls = ()

    @property
    def name(self) -> str:
        """What the file is called."""
        return self.path.replace("\\", "/").rsplit("/", 1)[-1]

    @property
    def aligned(self) -> bool:
        """Whether its time is tied to the counts."""
        return len(self.counts) > 1 and len(self.counts) == len(self.seconds)


def faced(walls: Walls, at_s: float) -> int | None:
    """The wall that is faced at a time: the one that was marked last; None before any."""
    return next((wall for time, wall in reversed(walls) if time <= at_s + NEAR_WALL_S), None)


def next_wall(walls: Walls, at_s: float) -> Walls:
    """Walls with the one at a time marked: where none is, the one to the right of what was faced before it, the front
    first; where one is, the next to the right; after all four none again."""
    others = tuple(one for one in walls if abs(one[0] - at_s) > NEAR_WALL_S)
    here = next((one for one in walls if abs(one[0] - at_s) <= NEAR_WALL_S), None)
    before = faced(tuple(one for one in others if one[0] <= at_s), at_s)
    first = 0 if before is None else (before + QUARTER) % 8
    wall = first if here is None else (here[1] + QUARTER) % 8
    if here is not None and wall == first:
        return others
    return tuple(sorted((*others, (round(at_s if here is None else here[0], 3), wall))))
