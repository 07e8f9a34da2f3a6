"""Words that schools use for different steps, each with the cards that it may mean, and names that traditions do not
share; common practice, no source."""

DISPUTED: dict[str, tuple[str, ...]] = {
    "flap": ("flap", "slap"),
    "slap": ("slap", "flap"),
    "stamp": ("stamp", "stomp"),
    "stomp": ("stomp", "stamp"),
    "pull": ("spank", "pickup", "drag step"),
    "draw": ("spank", "drawback"),
    "heel": ("heel", "dig", "heel step"),
    "dig": ("dig", "touch"),
    "tap": ("touch", "toe tip"),
    "jump": ("jump", "leap"),
    "irish": ("shuffle hop step", "skip"),
    "triple": ("triple step", "clogging triple", "triple time step"),
}

LOCAL = frozenset({
    "basic", "double", "chain", "chain step", "triple", "back step", "march", "skip", "skip step", "cut", "cut step",
    "batter",
    "threes", "sevens", "promenade", "rally", "farmer", "skate", "irish", "fancy", "joey", "heel work",
    "rolling step", "sweeping step", "gallop step", "doble", "rocking chair", "cross", "mambo", "toe back",
    "toe behind", "charleston", "stomp double", "stamp double", "roll", "single", "box", "break", "side step",
    "bounce", "touch heel", "heel touch", "touch toe", "toe touch",
})  # fmt: skip
"""Names that other traditions have for steps of their own: what they mean in one says nothing in another."""

_NOT_SWING = frozenset({"tap", "clogging", "flatfoot", "step dance", "folk stamping", "latin", "house"})
ELSEWHERE: dict[str, frozenset[str]] = {
    "shuffle": frozenset({"latin", "swing", "solo jazz"}),
    "slap": frozenset({"latin", "swing", "solo jazz", "house", "folk stamping"}),
    "six count basic": _NOT_SWING, "six-count basic": _NOT_SWING, "eight count basic": _NOT_SWING,
}  # fmt: skip
"""Names that some traditions have for steps which are none of these: a shuffle of tap is no triple step, a slap of
tap none of a hand."""
