"""What is in doubt in a take that was judged."""

from firn.core.ear.told import SURE
from firn.core.ear.verdict import Verdict


def doubts(name: str, verdict: Verdict) -> list[str]:
    """What is in doubt in a take that is judged as one of a part, a sentence each; what matters most first."""
    said = []
    found, added, starts = verdict.match, verdict.added, verdict.others
    if found.also:
        names = ", ".join(found.also)
        said.append(f"By its times alone it may as well be {names}: both sound alike.")
    elif found.what != "this":
        said.append(f"Judged as {name} because you said so: it fits badly.")
    elif found.sure < SURE:
        share = 100 * found.passes.share
        said.append(f"Likely {name}, not surely: {share:.0f} of 100 sounds fall into place.")
    if starts:
        shifts = " or ".join(f"{abs(o):.1f} counts {'later' if o > 0 else 'earlier'}" for o in starts)
        said.append(f"It fits as well if it begins {shifts}.")
    if verdict.cut_off:
        said.append("It was recorded too loud: its loudest sounds are cut off, and soft ones may be hidden.")
    if verdict.unplain:
        said.append("A room or a voice may cover sounds: what is not heard may have been danced, softly.")
    echoes = sum(a.echo for a in added)
    if echoes:
        sounds = "One soft sound" if echoes == 1 else f"{echoes} sounds"
        said.append(f"{sounds} too many may be the room's echo: left out of the verdict.")
    unsure = sum(a.doubted for a in added) - echoes
    if unsure:
        sounds = "One sound" if unsure == 1 else f"{unsure} sounds"
        said.append(f"{sounds} too many may be a voice or a noise, and no step: left out of the verdict.")
    return said
