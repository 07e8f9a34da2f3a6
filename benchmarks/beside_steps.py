"""Lines of steps with what is said beside them and is none: where they go, how loud, with which foot, what a class is
told meanwhile. They sound as the same line without it.

What is said so is common practice, from memory.
"""

import random

from benchmarks.put_together import Line, PutTogether

_TRADITIONS = ("tap", "clogging", "folk stamping", "latin", "swing", "solo jazz", "house", "step dance")
_STEPS = (
    "step",
    "stamp",
    "stomp",
    "clap",
    "hop",
    "touch",
    "kick",
    "flap",
    "shuffle step",
    "ball change",
    "rock step",
)
_OFTEN = {"x4": 4, "four times": 4, "twice": 2, "x2": 2, "times 3": 3, "three times in a row": 3, "2 times": 2}
_BESIDE = (
    "to the right", "to the left", "travelling right", "moving forward", "going back", "in place", "on the spot",
    "sideways", "forwards", "backwards", "to the front", "towards the back", "softly", "lightly", "loud",
    "across the floor", "in a circle", "slowly", "knees bent", "with energy", "holding hands", "on your toes",
    "turning", "watch me", "no arms", "with the music", "next time", "in time", "arms up", "nice and big",
)  # fmt: skip
_SPANISH_STEPS = ("golpe", "planta", "palma", "paso", "salto", "toque")
_SPANISH_OFTEN = {"x4": 4, "cuatro veces": 4, "dos veces": 2, "x2": 2, "tres veces": 3}
_SPANISH_BESIDE = (
    "a la derecha", "a la izquierda", "hacia adelante", "hacia atrás", "en el lugar", "en el sitio", "despacio",
    "suave", "fuerte", "girando", "a contratiempo", "con la derecha", "con el pie izquierdo", "sin parar", "conmigo",
    "con fuerza", "las rodillas flexionadas", "tomados de la mano", "la próxima vez", "muy bien",
)  # fmt: skip
_FORMS = (
    "{steps} {often} {beside}",
    "({steps}) {often} {beside}",
    "{steps} {often} ({beside})",
    "{beside}: {steps} {often}",
)
_MOST = 3
"""Steps of a line."""


def _line(rng: random.Random) -> Line:
    spanish = rng.random() < 1 / 4
    steps, often, beside = (_SPANISH_STEPS, _SPANISH_OFTEN, _SPANISH_BESIDE) if spanish else (_STEPS, _OFTEN, _BESIDE)
    row = [rng.choice(steps) for _ in range(rng.randint(1, _MOST))]
    so_often = rng.choice(list(often))
    written = f"( {', '.join(row)} ) x{often[so_often]}" if len(row) > 1 else f"{row[0]} x{often[so_often]}"
    said = rng.choice(_FORMS).format(steps=" ".join(row), often=so_often, beside=rng.choice(beside))
    return rng.choice(("folk stamping", "latin") if spanish else _TRADITIONS), written, said


BESIDE_STEPS = PutTogether("Said beside steps", 300, _line, lambda sound: sound.kind)

if __name__ == "__main__":
    BESIDE_STEPS.show()
