"""A recording or film that a part was taken off, or music that a piece is danced to: where it is, which stretch, how
its seconds lie on the counts."""

from msgspec import Struct


class Clip(Struct, frozen=True):
    """A clip of a part, or of a piece its music: `part` is then the piece's own id. The file stays where it is and is
    known by its size and a digest of its content.

    `begin_s` to `end_s`: the stretch that was looked at. `counts` and `seconds`: knots of the line that ties the
    part's counts to the clip's time, none where it is not known. `mirrored`: it is looked at mirrored. `said`: whose
    step it is, who taught it, when and where.
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

    @property
    def name(self) -> str:
        """What the file is called."""
        return self.path.replace("\\", "/").rsplit("/", 1)[-1]

    @property
    def aligned(self) -> bool:
        """Whether its time is tied to the counts."""
        return len(self.counts) > 1 and len(self.counts) == len(self.seconds)
