"""A pack as one HTML file, or as a zipped folder with its sounds as files."""

import base64
import io
import json
import zipfile
from collections.abc import Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from importlib import resources
from typing import Any

from msgspec import Struct

from firn.core.book.students import OWNER
from firn.core.sound.model import render_blocks
from firn.core.task import UNWATCHED, Task
from firn.core.timeline.timeline import Section, Timeline
from firn.errors import FirnError
from firn.session.cautions import CAUTIONS, IN_SPANISH
from firn.session.fresh import new_id
from firn.session.pack.coded import PACK_RATE, mp3_of
from firn.session.pack.contents import (
    LANGUAGES,
    MIDDLE,
    SLOW,
    Item,
    Sounds,
    Wanted,
    hard_rows,
    item_data,
    items,
    practice_rows,
    question_rows,
)
from firn.session.pack.markup import Markup, joined, tag
from firn.session.pack.strip import rows, symbols
from firn.session.pack.words import WORDS
from firn.session.stretch import across

MOST_BYTES = 6_000_000
PLAIN_S = 240.0
"""So many seconds of plain sound fit into a pack."""

POLICY = (
    "default-src 'none'; script-src 'unsafe-inline'; style-src 'unsafe-inline'; img-src data: blob:; "
    "media-src data: blob: 'self'"
)
"""What the page may load: nothing that it does not hold."""


class Plain(Struct, frozen=True):
    """Plain sound of a part at a tempo, as MP3: `pace` is slow, middle or full."""

    item: Item
    pace: str
    tempo: float
    data: bytes

    @property
    def file(self) -> str:
        """What it is called in a folder."""
        name = "".join(c if c.isalnum() else "-" for c in self.item.name)
        return f"sounds/{name}-{self.tempo:.0f}.mp3"


VOICE_FILE = "sounds/voice.mp3"


class Pack(Struct, frozen=True):
    """A pack: its page with all in it, and what stands beside it as files where it is a folder, by name."""

    id: str
    html: str
    files: tuple[tuple[str, bytes], ...]
    linked: str

    def zipped(self) -> bytes:
        """The page beside its sounds as files, as a zipped folder."""
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as folder:
            folder.writestr("index.html", self.linked)
            for name, data in self.files:
                folder.writestr(name, data)
        return out.getvalue()


def plain_sounds(made: Sequence[Item], task: Task = UNWATCHED) -> list[Plain]:
    """The parts at three tempos, as far as `PLAIN_S` goes; the coder works on all cores."""
    chosen: list[tuple[Item, str, float, Section]] = []
    left = PLAIN_S
    for item in made:
        for share, pace in ((SLOW, "slow"), (MIDDLE, "middle"), (1.0, "full")):
            tempo = float(max(item.bounds[0], round(item.tempo * share)))
            section = item.section(tempo)
            left -= float(section.length_s)
            if left >= 0 or not chosen:
                chosen.append((item, pace, tempo, section))
    found = []
    with ThreadPoolExecutor() as pool:
        coded = pool.map(lambda one: mp3_of(render_blocks(Timeline((one[3],)))), chosen)
        for number, ((item, pace, tempo, _), data) in enumerate(zip(chosen, coded, strict=True), 1):
            found.append(Plain(item, pace, tempo, data))
            task.step(number / len(chosen))
    return found


def make_pack(wanted: Wanted, task: Task = UNWATCHED, plain: Sequence[Plain] | None = None) -> Pack:
    """A pack; `plain`: its plain sounds, where they are made already. Raises FirnError with one sentence."""
    if wanted.language not in LANGUAGES:
        raise FirnError(f"Packs are made in {' and '.join(LANGUAGES)}, not {wanted.language}.")
    made = items(wanted)
    sounds = Sounds()
    played = [item_data(item, sounds) for item in made]
    questions = question_rows(wanted, made, sounds)
    practice = practice_rows(wanted)
    plain = plain_sounds(made, task.within(0, 0.8)) if plain is None else plain
    key = new_id()
    student = wanted.student
    swapped = student is not None and student.sides == "other side"
    data = {
        "firn": "pack", "version": 1, "id": key, "student": student.id if student is not None else OWNER,
        "piece": wanted.piece.settings.name, "rate": PACK_RATE, "items": played, "questions": questions,
        "practice": practice, "sounds": sounds.data, "words": WORDS[wanted.language],
        "swapped": swapped, "mirrored": bool(student is not None and student.mirrored),
        "did_name": "what I did " + wanted.piece.settings.name.replace("/", "-"),
    }  # fmt: skip
    pages = [_page(wanted, made, data, plain, linked=linked) for linked in (False, True)]
    if len(pages[0].encode()) > MOST_BYTES:
        size, most = len(pages[0]) / 1e6, MOST_BYTES / 1e6
        raise FirnError(f"This pack would hold {size:.1f} MB; {most:.0f} is most: give out fewer parts.")
    files = [(one.file, one.data) for one in plain]
    files += [(film.file, film.data) for film in wanted.films]
    files += [(VOICE_FILE, wanted.voice)] if wanted.voice else []
    return Pack(key, pages[0], tuple(files), pages[1])


def _resource(name: str) -> str:
    return resources.files("firn.session.pack").joinpath(name).read_text("utf-8")


_UNSAFE = {"&": "\\u0026", "<": "\\u003c", ">": "\\u003e", "\u2028": "\\u2028", "\u2029": "\\u2029"}


def _json(data: Any) -> Markup:
    """Values as JSON that no text in them can end."""
    said = json.dumps(data, ensure_ascii=False, separators=(",", ":"))
    for letter, instead in _UNSAFE.items():
        said = said.replace(letter, instead)
    return Markup(said)


Say = Mapping[str, str]
Rows = Sequence[Mapping[str, Any]]


def _page(
    wanted: Wanted, made: Sequence[Item], data: Mapping[str, Any], plain: Sequence[Plain], *, linked: bool
) -> str:
    """The page; `linked`: its plain sounds are files beside it."""
    say = WORDS[wanted.language]
    head = tag(
        "head",
        tag("meta", charset="utf-8"),
        tag("meta", http_equiv="Content-Security-Policy", content=POLICY),
        tag("meta", name="viewport", content="width=device-width, initial-scale=1"),
        tag("meta", name="referrer", content="no-referrer"),
        tag("title", wanted.piece.settings.name),
        tag("style", Markup(_resource("page.css"))),
    )
    main = tag(
        "main",
        _controls(made, say),
        _strips(made, say),
        _films(wanted, say, linked=linked),
        _plain(plain, say, linked=linked),
        _told(wanted, made, say),
        _mine(say),
        _ear(data["questions"], say),
        _practice(data["practice"], say),
        _did(say),
    )
    body = tag(
        "body",
        _above(wanted, made, say, linked=linked),
        main,
        _foot(wanted, say),
        tag("script", _json(data), type="application/json", id="pack"),
        tag("script", Markup(_resource("page.js"))),
    )
    return f"<!DOCTYPE html>\n{tag('html', head, body, lang=wanted.language)}\n"


def _above(wanted: Wanted, made: Sequence[Item], say: Say, *, linked: bool) -> Markup:
    settings = wanted.piece.settings
    counted = f"{settings.meter}, {settings.feel}; {', '.join(item.name for item in made)}"
    by, note = wanted.by.strip(), wanted.note.strip()
    return tag(
        "header",
        tag("h1", settings.name),
        tag("p", counted, class_="quiet"),
        tag("p", f"{say['by']} {by}", class_="quiet") if by else Markup(),
        tag("h2", say["note"]) if note or wanted.voice else Markup(),
        tag("p", note) if note else Markup(),
        _voice(wanted, say, linked=linked) if wanted.voice else Markup(),
        tag("noscript", tag("p", say["no_script"])),
    )


def _voice(wanted: Wanted, say: Say, *, linked: bool) -> Markup:
    source = VOICE_FILE if linked else _inside("audio/mpeg", wanted.voice)
    return tag("audio", controls=True, preload="none", aria_label=say["voice"], src=source)


def _inside(kind: str, data: bytes) -> str:
    """A file as the page itself holds it."""
    return f"data:{kind};base64,{base64.b64encode(data).decode('ascii')}"


def _films(wanted: Wanted, say: Say, *, linked: bool) -> Markup:
    """The pictures of clips, each with its words as captions."""
    shown: list[Markup] = []
    for film in wanted.films:
        words = tag(
            "track", kind="captions", label=say["said"], srclang=wanted.language, src=film.captions, default=True
        )
        source = film.file if linked else _inside("video/mp4", film.data)
        shown += [
            tag("h3", film.part),
            tag(
                "video", words, controls=True, preload="metadata", playsinline=True, aria_label=film.part, src=source
            ),
            tag("p", film.said, class_="quiet") if film.said.strip() else Markup(),
        ]
    return tag("section", tag("h2", say["clip"]), *shown) if shown else Markup()


def _press(key: str, text: str) -> Markup:
    return tag("button", text, type="button", id=key, aria_pressed="false")


def _select(key: str, text: str, options: Sequence[tuple[str, str]] = ()) -> Markup:
    listed = (tag("option", shown, value=value) for value, shown in options)
    return joined(tag("label", text, for_=key), tag("select", *listed, id=key))


def _row(*inside: Markup) -> Markup:
    return tag("div", *inside, class_="row-of scripted")


def _controls(made: Sequence[Item], say: Say) -> Markup:
    tempo = tag("label", say["tempo"], tag("input", type="number", id="tempo", min=20, max=400))
    bar = tag(
        "section",
        tag(
            "div",
            tag("span", class_="word", id="now-word"),
            tag("span", id="now-count"),
            class_="now",
            aria_hidden="true",
        ),
        tag(
            "div",
            tag("button", say["play"], type="button", class_="next", id="play"),
            tag("button", "−", type="button", id="slower", aria_label=say["slower"]),
            tempo,
            tag("button", "+", type="button", id="faster", aria_label=say["faster"]),
            class_="row-of",
        ),
        class_="scripted bar",
        aria_label=say["play"],
    )
    heard = (
        tag("label", tag("input", type="checkbox", id=key, checked=True), say[key])
        for key in ("steps", "counts", "beats", "left", "right", "hands")
    )
    return joined(
        bar,
        _row(_select("item", say["part"], [(item.id, item.name) for item in made])),
        _row(
            *(
                _press(k, say[word])
                for k, word in (("swapped", "other"), ("mirrored", "mirrored"), ("again", "again"))
            )
        ),
        _row(_select("from", say["from_count"]), _select("to", say["to_count"])),
        tag("details", tag("summary", say["heard"]), tag("div", *heard, class_="row-of"), class_="scripted"),
        tag(
            "details",
            tag("summary", say["look"]),
            tag("div", _press("dark", say["dark"]), _press("large", say["large"]), class_="row-of"),
            tag("p", tag("b", say["keys"]), f" {say['keys_how']}.", class_="quiet"),
            class_="scripted",
        ),
    )


def _strips(made: Sequence[Item], say: Say) -> Markup:
    parts = [tag("h2", say["strip"]), symbols()]
    for item in made:
        # Without scripts every part is seen as it is written.
        parts += [tag("h3", item.name, class_="unscripted")] if len(made) > 1 else []
        for side, stretch in (("written", item.stretch), ("other", across(item.stretch))):
            strip = tag(
                "div", *rows(stretch), class_="strip", data_strip=item.id, data_side=side, hidden=side == "other"
            )
            parts.append(strip)
        parts.append(tag("div", tag("h3", say["said"]), tag("pre", item.said), data_said=item.id))
    return joined(*parts)


def _plain(plain: Sequence[Plain], say: Say, *, linked: bool) -> Markup:
    players = []
    for one in plain:
        source = one.file if linked else _inside("audio/mpeg", one.data)
        name = f"{one.item.name}, {say[one.pace]}, {one.tempo:.0f}"
        players += [tag("p", name), tag("audio", controls=True, preload="none", aria_label=name, src=source)]
    return tag("details", tag("summary", say["plain"]), *players)


def _told(wanted: Wanted, made: Sequence[Item], say: Say) -> Markup:
    steps = [joined(tag("h3", name), _listed(lines)) for name, lines in hard_rows(made)]
    hard = tag("details", tag("summary", say["hard"]), *steps) if steps else Markup()
    cautions = IN_SPANISH if wanted.language == "es" else CAUTIONS
    return joined(hard, tag("h2", say["care"]), _listed(cautions))


def _listed(lines: Sequence[str]) -> Markup:
    return tag("ul", *(tag("li", line) for line in lines))


def _mine(say: Say) -> Markup:
    return tag(
        "section",
        tag("h2", say["mine"]),
        tag("p", tag("label", say["mine_how"], for_="mine-file")),
        tag("input", type="file", id="mine-file", accept="audio/*,video/*"),
        tag("audio", id="mine-sound", controls=True, hidden=True, aria_label=say["mine"]),
        tag("div", tag("button", say["mine_both"], type="button", id="mine-both", hidden=True), class_="row-of"),
        class_="scripted",
    )


def _ear(questions: Rows, say: Say) -> Markup:
    asked = [
        tag(
            "div",
            tag("p", f"{number + 1}. {one['text']}"),
            tag(
                "div",
                tag("button", say["hear"], type="button", class_="hear next"),
                *(tag("button", text, type="button", class_="answer") for text in one["answers"]),
                class_="answers",
            ),
            tag("p", class_="told", role="status"),
            class_="asked",
            data_q=number,
        )
        for number, one in enumerate(questions)
    ]
    heads = tag("h2", say["ear"]), tag("p", id="score", role="status")
    return tag("section", *heads, *asked, class_="scripted") if asked else Markup()


def _practice(practice: Rows, say: Say) -> Markup:
    if not practice:
        return Markup()
    body = []
    for number, one in enumerate(practice):
        tempo = f"{one['tempo']:g}" + (f" – {one['to']:g}" if one["to"] != one["tempo"] else "")
        what = f"{one['title']}, {tempo}, {say.get(one['sides'], one['sides'])}, × {one['times']}"
        went = (("", "not_yet"), ("clean", "clean"), ("slip", "slip"), ("lost", "lost"))
        options = (tag("option", say[word], value=value) for value, word in went)
        tick = tag("select", *options, class_="scripted", data_tick=number, aria_label=f"{say['how']}: {what}")
        body.append(tag("tr", tag("td", one["day"]), tag("td", what), tag("td", tick)))
    heads = (tag("th", text, scope="col") for text in (say["day"], say["practice"], say["how"]))
    table = tag("table", tag("thead", tag("tr", *heads)), tag("tbody", *body))
    return tag("section", tag("h2", say["practice"]), table)


def _did(say: Say) -> Markup:
    out = tag(
        "div",
        tag("textarea", id="did-text", readonly=True, aria_label=say["did"]),
        tag(
            "div",
            tag("button", say["did_copy"], type="button", id="did-copy"),
            tag("a", say["did_file"], id="did-file", href="#"),
            class_="row-of",
        ),
        id="did-out",
        hidden=True,
    )
    make = tag("div", tag("button", say["did_make"], type="button", id="did-make"), class_="row-of")
    return tag("section", tag("h2", say["did"]), tag("p", say["did_how"]), make, out, class_="scripted")


def _foot(wanted: Wanted, say: Say) -> Markup:
    licence = tag("p", f"{say['licence']}: {wanted.licence}") if wanted.licence.strip() else Markup()
    names = ", ".join((wanted.piece.settings.name, *wanted.parts))
    return tag("footer", licence, tag("p", f"{say['from']}: {names}. {say['wall']}"), class_="quiet")
