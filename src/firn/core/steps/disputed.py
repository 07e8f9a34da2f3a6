"""Words that schools use for different steps, each with the cards that it may mean; common practice, no source."""

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
