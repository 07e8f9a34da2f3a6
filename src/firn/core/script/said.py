"""The small words that teachers say between steps, in English and Spanish, and the forms that names take.

Common practice, no source.
"""

from collections.abc import Iterator
from functools import lru_cache

from firn.core.steps.card import Card
from firn.core.steps.names import bare, fold
from firn.core.steps.shelf import Shelf

SIDES = {
    "r": "right", "right": "right", "l": "left", "left": "left", "both": "both", "der": "right", "derecha": "right",
    "derecho": "right", "izq": "left", "izquierda": "left", "izquierdo": "left",
    "rf": "right", "lf": "left", "rt": "right", "lt": "left", "rgt": "right", "lft": "left",
}  # fmt: skip
"""Which foot, before its word or after it."""

FEET = frozenset({"foot", "feet", "pie", "pies"})
"""Said with a side, and nothing of its own."""

AND = frozenset({"and", "y"})
ALTERNATES = frozenset(
    {"alternating", "alternate", "alternately", "alternando", "alternados", "alternadas", "changing"}
)
"""Said after steps that change feet anyway."""
STARTS = frozenset(
    {
        "starting", "beginning", "begin", "begins", "start", "starts", "leading", "lead", "empezando", "comenzando",
        "started", "began",
    }
)  # fmt: skip
"""Said before the foot that begins."""
THEN = frozenset(
    {
        "then",
        "now",
        "so",
        "next",
        "just",
        "first",
        "finally",
        "okay",
        "ok",
        "luego",
        "después",
        "despues",
        "ahora",
        "primero",
        "entonces",
        "finalmente",
    }
)
"""Said before a step, and says nothing of it."""
BODY = frozenset(
    {
        "knee",
        "knees",
        "thigh",
        "thighs",
        "leg",
        "legs",
        "chest",
        "hip",
        "hips",
        "body",
        "rodilla",
        "rodillas",
        "muslo",
        "muslos",
        "pecho",
    }
)
"""What a hand pats."""
IT = frozenset({"it", "them", "that"})
"""Said after a step, for the floor or the step itself."""
ANOTHER = frozenset({"another", "otro", "otra"})
"""One more of the step that is named next."""
AS_ONE = frozenset({"together", "juntos", "juntas"})
"""Said after two steps that sound at once."""
OF = frozenset({"of", "after", "de", "del"})
"""Said between a division and the count that it is in: the and of 2."""
ON = frozenset({"on", "en"})
WITH = frozenset({"with", "con", "using", "usando"})
WITHOUT = frozenset({"no", "without", "sin"})
WEIGHT = frozenset({"weight", "peso"})
WEIGHED = (("stomp", "stamp"), ("touch", "step"), ("dig", "heel step"))
"""Steps as they are called without weight and with it."""
GOING = frozenset(
    {
        "going", "move", "moves", "moving", "travels", "travelling", "traveling", "travel", "crossing", "yendo",
        "avanzando",
    }
)  # fmt: skip
"""Said before the way that steps go."""
DANCERS = frozenset({"you", "we", "i"})
"""Who dances it."""
THE = frozenset({"the", "your", "my", "el", "la", "los", "las", "tu", "su"})
ARTICLES = frozenset({"a", "an", "un", "una"})
TIMES = frozenset({"times", "veces"})
LASTS = frozenset(
    {
        "hold",
        "wait",
        "stay",
        "pause",
        "rest",
        "freeze",
        "nothing",
        "silence",
        "espera",
        "silencio",
        "pausa",
        "descansa",
        "descanso",
        "nada",
    }
)
"""Said before a number: for so long, or on that count."""
AGAIN = frozenset({"again", "repeat", "repite", "repetir"})
"""At a line's end: all of it once more."""
MORE, TIME = frozenset({"more", "last"}), frozenset({"time"})
"""All of it once more: one more time."""
MORE_TIMES = "more times"
FROM = frozenset({"from", "desde"})
"""Before the foot that begins, as on is."""
WHO_BEGINS = frozenset(SIDES) | FEET | THE | ON | WITH | STARTS | FROM
"""What a foot that begins is said with: on the left foot, starting right."""
LEADERS = frozenset({"leader", "leaders"})
ALL_OF_IT = frozenset({"all", "everything", "todo"})
OF_IT = frozenset({"of", "it", "that", "this", "lo"})
"""Between "all" and how often: all of it twice."""
BOTH = frozenset({"ambos", "los"})
OPENS_OTHER = frozenset(
    {
        "other", "opposite", "on", "repeat", "same", "again", "otro", "al", "del", "repite", "otra", "both", "each",
        "ambos", "en", "por", "los", "reverse", "mirror", "switch",
        "change", "swap", "lo", "mismo", "igual", "todo", "to",
    }
)  # fmt: skip
"""With these begins what says that all of it is danced on the other side."""
BARS = frozenset({"bar", "bars", "compás", "compas"})
"""Before the number of a bar."""
FOR = frozenset({"for", "por"})
TURN = frozenset({"turn", "vuelta", "giro"})
"""Said between how far and which way: half turn left."""
LAST_COUNT = 8
"""The count after which a teacher says 1 again: common practice, no source."""
COUNTED = frozenset({"count", "counts", "ct", "cts", "beat", "beats", "tiempo", "tiempos"})
"""Said with a number, and nothing of their own."""
BY_NUMBER = frozenset({"count", "counts", "sound", "sounds"})
"""In names that begin with a number: six count basic."""
THROUGH = frozenset({"to", "through", "thru", "till", "until", "hasta"})
"""Between two counts: from one to the other."""
ONCE_OR_MORE = {"once": 1, "twice": 2, "thrice": 3}

DIVISIONS = {"and": "&", "y": "&", "n": "&", "an": "&", "ah": "a", "uh": "a", "ee": "e"}
"""Divisions as they sound, among counts."""

NUMBERS = {
    "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9, "ten": 10,
    "eleven": 11, "twelve": 12, "thirteen": 13, "fourteen": 14, "fifteen": 15, "sixteen": 16, "twenty": 20,
    "uno": 1, "dos": 2, "tres": 3, "cuatro": 4, "cinco": 5, "seis": 6, "siete": 7, "ocho": 8, "nueve": 9, "diez": 10,
    "once": 11, "doce": 12, "dieciséis": 16, "dieciseis": 16, "veinte": 20,
}  # fmt: skip
"""Numbers in words; what is said in both languages is read as English."""


TO = frozenset({"to", "toward", "towards", "hacia", "al"})
WHERE = {
    "cross": "across", "across": "across", "over": "across", "behind": "behind", "front": "front", "side": "side",
    "out": "out", "in": "in", "back": "back", "backward": "back", "backwards": "back", "forward": "forward",
    "forwards": "forward", "place": "in place", "together": "together", "up": "up", "down": "down", "atrás": "back",
    "atras": "back", "adelante": "forward", "lado": "side", "cruzado": "across", "detrás": "behind",
    "detras": "behind", "delante": "front", "junto": "together", "juntos": "together", "fuera": "out",
    "afuera": "out", "dentro": "in", "adentro": "in", "arriba": "up", "abajo": "down",
    "junta": "together", "cierra": "together", "close": "together", "closes": "together",
    "cruza": "across", "cruce": "across",
    "sideways": "side", "sidewards": "side",
    "lateral": "side", "frente": "front", "fwd": "forward", "fw": "forward", "bwd": "back", "bkwd": "back",
    "bk": "back", "sd": "side", "xif": "across", "xib": "behind", "tog": "together",
    "ots": "side", "lugar": "in place", "spot": "in place", "sitio": "in place", "apart": "out",
}  # fmt: skip
"""Where a step goes."""


AFTER_IN = frozenset({"front", "place", "back"})
"""Said after "in", which says nothing then."""

PACES = {
    "slow": 2,
    "quick": 1,
    "long": 2,
    "short": 1,
    "lento": 2,
    "rápido": 1,
    "rapido": 1,
    "lenta": 2,
    "rápida": 1,
    "S": 2,
    "Q": 1,
}
"""How many counts a step takes, where that is said in place of its count; S and Q in capitals alone."""


LEVELS = {
    "loud": 1, "hard": 1, "strong": 1, "heavy": 1, "accented": 1, "fuerte": 1, "loudly": 1, "soft": -1, "light": -1,
    "quiet": -1, "softly": -1, "lightly": -1, "quietly": -1, "suave": -1,
    "fuertes": 1, "suaves": -1,
}  # fmt: skip
"""How loud a step is: before it, or after it."""

LEVELS_AFTER = frozenset({"fuerte", "suave", "fuertes", "suaves"})
"""Of these, those that come after their step."""

STEPS = frozenset({"step", "steps", "paso", "pasos"})
"""Any step: "Step 2:" is none, and "step the heel" names no other."""

CLOGS = frozenset({"clogging", "flatfoot", "tap"})
"""Traditions that write S for a step, where no quick is said."""

QUICK = frozenset({"q", "quick", "rápido", "rapido"})

BARE = {
    "heel": "dig", "heels": "dig", "tacón": "dig", "tacon": "dig", "talón": "dig", "talon": "dig", "toe": "toe tip",
    "toes": "toe tip",
}  # fmt: skip
"""A part of the foot said bare, and what it is where it does not drop."""

LEADS_TO = frozenset(
    {
        "forward", "forwards", "fwd", "back", "backward", "backwards", "bk", "side", "front", "cross", "behind",
        "across", "place",
    }
)  # fmt: skip
"""Said right before a step where it goes, as in back rock, side kick."""

SWUNG = frozenset(
    {
        "kick", "flick", "lift", "point", "sweep", "brush", "spank", "scuff", "hop", "leap", "jump", "chug", "slide",
    }
)  # fmt: skip
"""Kinds of sounds that go somewhere, so that where is said before them."""

MANNERS = frozenset(
    {
        "triplet", "triplets", "swing", "swung", "straight", "even", "evenly", "offbeat", "offbeats", "upbeat",
        "syncopated", "louder", "softer", "faster", "slower", "fast", "slowly", "quickly", "crescendo", "reverse",
        "reversed", "backwards", "mirror", "mirrored", "note", "notes", "eighths", "quarters", "sixteenths",
        "quavers", "crotchets", "corcheas", "negras",
    }
)  # fmt: skip
"""Said before a colon they say how what follows is danced, which is written elsewhere."""

MANNER_TIMES = (
    "double time", "half time", "cut time", "double speed", "half speed", "at half speed", "at double speed",
    "full speed", "at speed",
)  # fmt: skip

NOW = frozenset({"now", "ahora"})

A_SIDE = frozenset({"side", "lado"})
SIDES_SAID = frozenset({"sides", "lados"})

UP = frozenset({"up", "arriba"})

SO_MANY = {"single": 1, "double": 2, "triple": 3, "doble": 2}
"""Said before one sound they may be how many; alone they name figures."""

CROSSES = {"front": "front", "back": "behind"}
CROSS = frozenset({"cross"})
"""A step that crosses, with where it does so said before it."""

WALKS = frozenset({"walk", "walks", "walking", "run", "runs", "running"})

ROCKS = frozenset({"rock", "rocks"})
BACK_AGAIN = frozenset({"recover", "replace", "recupera"})
"""After a rock: the weight comes back, so that the rock was a step alone."""
JUMPS = frozenset({"jump", "jumps", "jp"})
BROKEN = frozenset({"break", "breaks"})
"""Said with where it goes it may be one step there."""
SPANISH_HEEL = frozenset({"tacón", "tacon", "tacones", "talón", "talon", "talones"})
ON_THE_BALL = frozenset({"step", "leap", "land", "hop", "heel", "toe", "pickup"})
"""After these the heel of the foot that carries is up, or has just dropped."""

DROPPED = frozenset({"tap", "clogging", "flatfoot", "folk stamping", "marking"})
"""Traditions in which a heel or a toe said bare drops."""

WHERE_TOUCHED = frozenset({"behind", "front", "side", "forward", "back", "atrás", "adelante", "detrás", "delante"})


def pace_of(word: str) -> int:
    """How many counts "slow" or "quick" takes; 0 for any other word."""
    return PACES.get(word if len(word) == 1 else word.casefold(), 0)


def own_names(shelf: Shelf, name: str, tradition: str) -> tuple[str, ...]:
    """Steps of a tradition whose names hold a word."""
    word = fold(name)
    found = (c.name for c in shelf.cards if tradition in c.traditions and word in fold(c.name).split())
    return tuple(list(found)[:3])


def singular(word: str) -> Iterator[str]:
    """What a word may be the plural of; with a mark before its s, too: suzy q's."""
    if word.endswith(("'s", "’s")) and len(word) > 2:
        yield word[:-2]
    if word.endswith("ies") and len(word) > 4:
        yield word[:-3] + "y"
    if word.endswith("es") and len(word) > 3:
        yield word[:-2]
    if word.endswith("s") and (len(word) > 2 or word == "qs"):
        yield word[:-1]


def done(word: str) -> Iterator[str]:
    """What a word may be a form of: stepping, stepped."""
    for ending in ("ing", "ed"):
        stem = word.removesuffix(ending)
        if stem != word and len(stem) > 2:
            yield stem
            yield stem + "e"
            if stem[-1] == stem[-2]:
                yield stem[:-1]


def done_in_spanish(word: str) -> Iterator[str]:
    """What a word may be a form of in Spanish: golpeando, golpeados."""
    for ending in ("citos", "citas", "cito", "cita", "itos", "itas", "ito", "ita"):
        # "golpecito", "pasito": a small one.
        stem = word.removesuffix(ending)
        if stem != word and len(stem) > 2:
            yield from (stem, stem + "e", stem + "a", stem + "o")
    for ending in ("amos", "an", "as", "ar", "a"):
        # "salta", "golpea": as it is called.
        stem = word.removesuffix(ending)
        if stem != word and len(stem) > 3:
            yield from (stem, stem + "o", stem + "e")
    for ending in ("ando", "iendo", "ados", "adas", "ado", "ada", "idos", "idas", "ido", "ida"):
        stem = word.removesuffix(ending)
        if stem != word and len(stem) > 2:
            yield from (stem, stem + "e", stem + "a", stem + "o")


def pair(word: str) -> Iterator[str]:
    """What a word may be one of, where its name is said of several: loose leg."""
    if len(word) > 2 and word not in NUMBERS:
        yield f"{word}s"


@lru_cache(maxsize=20_000)
def card_said(shelf: Shelf, name: str, tradition: str) -> tuple[Card | None, bool]:
    """The card that a name means as it is said, in any of its forms; and whether it is said of several."""
    exact = shelf.find(name, tradition)
    if exact is not None or len(name) > 60:
        return exact, False
    *before, last = fold(name).split() or [""]
    for plural, ways in ((True, singular), (False, done), (False, pair)):
        for form in ways(last):
            card = shelf.find(" ".join((*before, form)), tradition)
            if card is not None:
                return card, plural
    for form in done_in_spanish(last):
        name = " ".join((*before, form))
        if name in spanish_names(shelf):
            return shelf.find(name, tradition), False
    # "tacones" is the plural of tacón.
    several = (_accented(shelf).get(bare(" ".join((*before, form)))) for form in singular(last))
    accented = next((card for card in several if card is not None), None)
    return (accented, True) if accented is not None else (_accented(shelf).get(bare(fold(name))), False)


@lru_cache(maxsize=20_000)
def number_word(number: int | None) -> str:
    """A number as a word; "" for one that has none, or for no number."""
    return next((word for word, n in NUMBERS.items() if n == number), "")


def cards_said(shelf: Shelf, name: str, tradition: str) -> tuple[Card, ...]:
    """The cards that a name may mean as it is said, where it is the name of several; else ()."""
    *before, last = fold(name).split() or [""]
    names = (" ".join((*before, form)) for form in (last, *singular(last)))
    return next((cards for one in names if (cards := shelf.all_called(one, tradition))), ())


def spanish_names(shelf: Shelf) -> frozenset[str]:
    """The folded names of cards that are Spanish, or may be."""
    # Parts that are words make no others: their shelves come and go as one types.
    return _spanish(shelf.plain)


@lru_cache(maxsize=16)
def _spanish(shelf: Shelf) -> frozenset[str]:
    said = {fold(alias.name) for card in shelf.cards for alias in card.also if alias.language == "es"}
    theirs = (card for card in shelf.cards if "folk stamping" in card.traditions or card in shelf.own)
    return frozenset(said | {fold(card.name) for card in theirs})


@lru_cache(maxsize=16)
def _accented(shelf: Shelf) -> dict[str, Card]:
    """Cards by those of their names that have accents, without them."""
    return {bare(name): cards[0] for name, cards in shelf.by_name.items() if bare(name) != name}
