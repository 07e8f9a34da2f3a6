"""Print the figures: all, or those named (onsets, hard, rows, alignment, core, checking, typing, said, searching,
starting, actions, beside, building, by_hand, spoken, otherwise, footed, counts, turned, often,
said_beside, combos, which, two, says, feet, order, own, along, tapping, beats, clips, sharing, sung, words,
keystrokes)."""

import compileall
import sys
from pathlib import Path

from benchmarks import (
    actions,
    along,
    beats,
    beset,
    beside,
    building,
    by_hand,
    clips,
    combos,
    desk,
    ear,
    feet,
    gone_through,
    keystrokes,
    kinds,
    order,
    otherwise,
    own,
    rows,
    says,
    sharing,
    spoken,
    sung,
    sure,
    tapping,
    typed,
    which,
    words,
)
from benchmarks.beside_steps import BESIDE_STEPS
from benchmarks.footed import FOOTED
from benchmarks.on_counts import ON_COUNTS
from benchmarks.report import Stolen, machine
from benchmarks.so_often import SO_OFTEN
from benchmarks.turned import TURNED

ALL = {
    "onsets": ear.onsets,
    "hard": ear.hard,
    "rows": rows.rows,
    "alignment": ear.alignment,
    "core": desk.core,
    "checking": desk.checking,
    "typing": typed.typing,
    "said": typed.typing_said,
    "searching": desk.searching,
    "starting": desk.starting,
    "actions": actions.actions,
    "beside": beside.keys,
    "building": building.building,
    "by_hand": by_hand.by_hand,
    "spoken": spoken.spoken,
    "otherwise": otherwise.otherwise,
    "footed": FOOTED.say,
    "counts": ON_COUNTS.say,
    "turned": TURNED.say,
    "often": SO_OFTEN.say,
    "said_beside": BESIDE_STEPS.say,
    "combos": combos.combos,
    "which": which.which,
    "two": which.two,
    "says": says.says,
    "sung": sung.sung_words,
    "sure": sure.sure,
    "aloud": sure.aloud,
    "beset": beset.beset,
    "feet": feet.feet,
    "own": own.own,
    "along": along.along,
    "order": order.order,
    "tapping": tapping.tapping,
    "beats": beats.beats,
    "clips": clips.clips,
    "sharing": sharing.sharing,
    "words": words.words,
    "heard": words.from_sound,
    "gone_through": gone_through.gone_through,
    "kinds": kinds.kinds,
    "struck": kinds.other_kinds,
    "keystrokes": keystrokes.keystrokes,
}


def main() -> int:
    wanted = sys.argv[1:] or list(ALL)
    unknown = [w for w in wanted if w not in ALL]
    if unknown:
        print(f"No such measure: {', '.join(unknown)}. There are: {', '.join(ALL)}.", file=sys.stderr)
        return 2
    machine()
    # As on a user's machine, where `./run` compiles modules when it fetches what they need.
    compileall.compile_dir(Path(__file__).parents[1] / "src", quiet=1)
    for name in wanted:
        stolen = Stolen()
        ALL[name]()
        stolen.say()
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
