"""Numbers behind steps, feet that are kept, letters of cue sheets, a tap before any step: lines once read as
other steps without a word.

What teachers mean by them is common practice, no source.
"""

import math

from firn.core.steps.shelf import shipped
from tests.core.read_case import ReadCase
from tests.core.test_readings import doubted, piece
from tests.support import cases

FLAPS = "&R brush, 1R step, &L brush, 2L step, &R brush, 3R step, &L brush, 4L step"


class SaidPlainlyTest(ReadCase):
    @cases(
        ("tap", "tap stamp, clap", "1R touch, 2R flat, 3- clap"),
        ("tap", "tap tap step, stamp", "1R touch, 2R touch, 3R step, 4L flat"),
        ("tap", "tap flap", "1R touch, &R brush, 2R step"),
        ("flatfoot", "tap stomp", "1R touch, 2R stomp"),
        ("swing", "step tap rock step", "1R step, 2L touch, 3L step, 4R step"),
        ("tap", "clogging basic", "&R brush, aR spank, 1R step, &L step, 2R step"),
    )
    def test_a_tap_is_no_name_of_whose_the_next_step_is(self, tradition: str, body: str, sounds: str) -> None:
        self.assert_read(tradition, body, sounds)

    @cases(
        ("tap", "L heel x2, R heel x2", "1L heel, 2L heel, 3R heel, 4R heel"),
        ("tap", "heel drop twice on the left, then twice on the right", "1L heel, 2L heel, 3R heel, 4R heel"),
        ("tap", "1-4 L heel", "1L heel, 2L heel, 3L heel, 4L heel"),
        ("tap", "L toe x3", "1L toe, 2L toe, 3L toe"),
        ("tap", "R step x2", "1R step, 2L step"),
        ("tap", "flap heel twice on the right", "&R brush, aR step, 1R heel, &L brush, aL step, 2L heel"),
        ("tap", "irish R, irish L, irish R ball change",
         "&R brush, 1R spank, &L hop, 2R step, &L brush, 3L spank, &R hop, 4L step, &R brush, 5R spank, &L hop, "
         "6R step, &L step, 7R step"),
        ("folk stamping", "salto con los dos pies, palma", "1B jump, 2- clap"),
        ("latin", "un dos tres, cinco seis siete", "1R step, 2L step, 3R step, 5L step, 6R step, 7L step"),
        ("latin", "un, dos, tres", "1R step, 2L step, 3R step"),
        ("tap", "1-&-2 shuffle step", "1R brush, &R spank, 2R step"),
        ("tap", "a-1 flap, uh-two flap", "aR brush, 1R step, aL brush, 2L step"),
        ("tap", "and a one shuffle step, and-a-two shuffle step",
         "&R brush, aR spank, 1R step, &L brush, aL spank, 2L step"),
        ("tap", "1 ee & a paradiddle", "1R dig, eR spank, &R step, aR heel"),
        ("tap", "and a clap", "1- clap"),
        ("tap", "we've got a flap and a stamp", "&R brush, 1R step, 2L flat"),
        ("tap", "br sp st ba ch", "1R brush, 2R spank, 3R step, &L step, 4R step"),
        ("tap", "jump, both feet", "1B jump"),
        ("tap", "starting with the left: clap, stamp, stamp", "1- clap, 2L flat, 3R flat"),
        ("folk stamping", "con la izquierda: palma, golpe", "1- clap, 2L flat"),
        ("tap", "L: 1 clap 2 stamp", "1- clap, 2L flat"),
        ("tap", "left foot: hold, stamp", "1- hold, 2L flat"),
        ("tap", "both clap, stamp", "1- clap, 2R flat"),
        ("tap", "right left right clap", "1R step, 2L step, 3R step, 4- clap"),
    )  # fmt: skip
    def test_feet_that_are_kept(self, tradition: str, body: str, sounds: str) -> None:
        self.assert_read(tradition, body, sounds)

    @cases(
        ("house", "vine touch, stamp", "1R step, 2L step, 3R step, 4L touch, 5L flat",
         ["“vine”", "“vine then touch”"]),
        ("latin", "bachata basic touch", "1R step, 2L step, 3R step, 4L touch",
         ["“bachata basic”", "“bachata basic then touch”"]),
        ("latin", "bachata basic, touch", "1R step, 2L step, 3R step, 4L touch",
         ["“bachata basic”", "“bachata basic then touch”"]),
        ("latin", "bachata basic then touch", "1R step, 2L step, 3R step, 4L touch, 5L touch"),
        ("solo jazz", "grapevine to the left, touch", "1L step, 2R step, 3L step, 4R touch",
         ["“grapevine to the left”", "“grapevine to the left then touch”"]),
        ("house", "1-4 vine R, touch L", "1R step, 2L step, 3R step, 4L touch"),
        ("house", "1-4 vine R 5 touch", "1R step, 2L step, 3R step, 4L touch, 5L touch"),
        ("house", "vine clap", "1R step, 2L step, 3R step, 4L touch, 5- clap"),
    )  # fmt: skip
    def test_what_a_figure_ends_with_may_be_said_with_its_name(
        self, tradition: str, body: str, sounds: str, *offers: list[str]
    ) -> None:
        self.assert_read(tradition, body, sounds, *offers)

    @cases(
        ("folk stamping", "golpe palma, todo otra vez", "1R flat, 2- clap, 3L flat, 4- clap"),
        ("folk stamping", "golpe palma, una vez más", "1R flat, 2- clap, 3L flat, 4- clap"),
        ("latin", "adelante, atrás, chachachá", "1R step, 2L step, 3R step, &L step, 4R step"),
    )
    def test_once_more_in_spanish(self, tradition: str, body: str, sounds: str) -> None:
        self.assert_read(tradition, body, sounds)

    @cases(
        ("latin", "step R, 1/2 pivot L", "1R step, 2- pivot"),
        ("latin", "1/4 turn R, step", "1- turn, 2R step"),
        ("latin", "step R, touch L beside", "1R step, 2L touch"),
        (
            "latin",
            "cross in front, step side, cross behind, touch side",
            "1R step, 2L step, 3R step, 4L touch",
            ["“step-side”", "“step, side”"],
        ),
        ("solo jazz", "scuff hitch cross", "1R scuff, 2R lift", ["“hitch-cross”", "“hitch, cross”"]),
    )
    def test_as_a_sheet_has_it(self, tradition: str, body: str, sounds: str, *offers: list[str]) -> None:
        self.assert_read(tradition, body, sounds, *offers)

    @cases(
        ("first 8: stamp\nsecond 8: stamp, clap", "1R flat, 1L flat, 2- clap"),
        ("first four: stamp stamp\nsecond four: 1 stamp 2 clap", "1R flat, 2L flat, 5R flat, 6- clap"),
        ("stamp\nfirst four: stamp\nsecond four: clap", "1R flat, 2L flat, 6- clap"),
    )
    def test_an_eight_begins_where_it_does(self, body: str, sounds: str) -> None:
        self.assert_read("tap", body, sounds)

    @cases(
        ("tap", "flap with a quarter turn to the left, step", {-1: "-1/4"}),
        ("tap", "flap turning a half right, step", {-1: "1/2"}),
        ("tap", "turning 1/4 left flap, step", {-1: "-1/4"}),
        ("tap", "step, with a full turn right", {0: "1"}),
        ("latin", "paso un cuarto a la izquierda, paso", {0: "-1/4"}),
        ("latin", "paso, media vuelta a la derecha", {0: "1/2"}),
    )
    def test_how_far_is_said_in_more_words(self, tradition: str, body: str, turns: dict[int, str]) -> None:
        one = piece(tradition, body)
        self.assertEqual((one.problems, doubted(one)), ((), []))
        turned = {math.floor(s.place): str(s.turn) for s in one.parts[0].sounds if s.turn}
        self.assertEqual(turned, turns)

    def test_another_figure_is_no_spelling_of_the_first(self) -> None:
        offers = ["“side close, rock step”", "“rock step”"]
        self.assert_read("solo jazz", "side close: rock step", "1R step, 2L step, 3R step, 4L step", offers)

    def test_so_often_with_one_turn_is_asked_about(self) -> None:
        self.assertTrue(piece("tap", "flap x4 with a quarter turn right").problems)

    @cases(
        ("stamp, one clap, stamp", "1R flat, 2- clap, 3L flat"),
        ("stamp, one hold, stamp", "1R flat, 2- hold, 3L flat"),
        ("stamp, then one clap", "1R flat, 2- clap"),
        # In figures it is the count.
        ("stamp, 1 clap, stamp", "8R flat, 1- clap, 2L flat"),
    )
    def test_one_between_pauses(self, body: str, sounds: str, *offers: list[str]) -> None:
        self.assert_read("tap", body, sounds, *offers)

    def test_dots_by_themselves_are_asked_about(self) -> None:
        for dots in (".", "...", "…"):
            message = f'Say "hold" for a "{dots}" on which nothing sounds; a comma parts steps.'
            self.assert_asked("tap", f"stamp {dots} stamp", message)
        self.assert_read("tap", "stamp... stamp. clap", "1R flat, 2L flat, 3- clap")

    def test_what_is_another_traditions_is_not_near_to_itself(self) -> None:
        message = 'In latin no step is called "triple": it is one of clogging. Nearest: triple step, treble.'
        self.assert_asked("latin", "triple", message)

    def test_a_shuffle_is_none_of_taps_where_it_is_another_step(self) -> None:
        message = 'In swing no step is called "shuffle": it is one of tap. Nearest: scuffle, shuffle step.'
        self.assert_asked("swing", "shuffle", message)

    def test_a_slap_is_none_of_taps_where_a_hand_slaps(self) -> None:
        message = 'In solo jazz no step is called "slap": it is one of tap. Nearest: snap, slip.'
        self.assert_asked("solo jazz", "knee slap, slap", message)

    def test_an_eight_that_has_begun_is_told(self) -> None:
        self.assert_asked("tap", "1st 8: flap x9\n2nd 8: stamp", "Eight 2 has begun already: 1 is in it.")
        text = "first 8: stamp\nsecond 8: flap x9\nthird 8: stamp"
        self.assert_asked("tap", text, "Eight 3 has begun already: 1 is in it.")

    def test_a_name_over_a_comma_is_asked_about(self) -> None:
        """However badly its words dance by themselves: a toe drops on no flat foot."""
        offers = ["heel step, the step", "heel, then step"]
        self.assert_read("tap", "heel, step, toe, step", "1R heel_step, 2R toe, 3L step", offers)
        offers = ["touch side, then step", "touch, then side step"]
        self.assert_read(
            "latin", "touch side, step, touch side, step", "1R touch, 2R step, 3L touch, 4L step", offers
        )

    def test_a_figure_begins_no_whole_count_before_the_first_that_is_said(self) -> None:
        one = piece("solo jazz", "7 & 8 half break")
        self.assertEqual([p.message for p in one.problems], ['"half break" has 5 sounds; 3 counts are written.'])
        self.assert_read("tap", "1&2 shuffle ball change", "&R brush, 1R spank, &R step, 2L step")

    @cases(
        ("tap", "walk back four, clap", "1R step, 2L step, 3R step, 4L step, 5- clap"),
        ("tap", "walk 4 back!", "1R step, 2L step, 3R step, 4L step"),
        ("tap", "walk 4 steps.", "1R step, 2L step, 3R step, 4L step"),
        ("folk stamping", "caminamos cuatro pasos y luego golpe", "1R step, 2L step, 3R step, 4L step, 5R flat"),
        ("tap", "four alternating flaps", FLAPS),
        ("tap", "three right toe taps, two left heel drops", "1R toe_tip, 2R toe_tip, 3R toe_tip, 4L heel, 5L heel"),
        ("tap", "jump, feet apart, jump, feet together", "1B jump, 2B jump"),
        ("solo jazz", "swivel heels right, twist", "1- swivel, 2- swivel"),
        ("tap", "step one and clap two", "1R step, 2- clap"),
        ("tap", "so stamp one and a clap", "1R flat, 2- clap"),
        ("tap", "okay, don't forget the clap: stamp stamp clap", "1R flat, 2L flat, 3- clap"),
        ("tap", "put the heel on the and: step heel step heel", "1R step, &R heel, 2L step, &L heel"),
        ("folk stamping", "stamp with a clap, clap while you stamp", "1R flat, 1- clap, 2- clap, 2L flat"),
        ("folk stamping", "slap right thigh with the right hand", "1- pat"),
        ("step dance", "over 2 3", "1R step, 2L step, 3R step"),
        ("latin", "samba: 1 a 2, 3 a 4", "1R step, aL step, 2R step, 3L step, aR step, 4L step"),
        ("folk stamping", "golpe doble", "&R touch, 1R flat"),
        ("folk stamping", "knee slap knee slap", "1- pat, 2- pat"),
        ("tap", "4 sets of flap heel, stamp",
         "&R brush, aR step, 1R heel, 2L flat, &R brush, aR step, 3R heel, 4L flat, &R brush, aR step, 5R heel, "
         "6L flat, &R brush, aR step, 7R heel, 8L flat"),
        ("tap", "stamp clap, do that twice", "1R flat, 2- clap, 3L flat, 4- clap"),
        ("tap", "stamp and clap at the same time", "1R flat, 1- clap"),
        ("tap", "1-4 stamp\n5-8 clap\n9 step 10 & step step",
         "1R flat, 2L flat, 3R flat, 4L flat, 5- clap, 6- clap, 7- clap, 8- clap, 1R step, 2L step, &R step"),
        ("tap", "stamp on 1, 5, 9", "1R flat, 5L flat, 1R flat"),
        ("tap", "1 - 4 clap, 5 - 8 stamp",
         "1- clap, 2- clap, 3- clap, 4- clap, 5R flat, 6L flat, 7R flat, 8L flat"),
        ("tap", "step step\ntip: knees soft\nnotes: keep it low", "1R step, 2L step"),
        ("folk stamping", "R hand pat, L hand pat, pat with the right hand", "1- pat, 2- pat, 3- pat"),
        ("tap", "4*stamp", "1R flat, 2L flat, 3R flat, 4L flat"),
        ("tap", "slide for 2 counts, stamp", "1L slide, 2- hold, 3R flat"),
    )  # fmt: skip
    def test_how_many_and_what_is_only_called(self, tradition: str, body: str, sounds: str) -> None:
        self.assert_read(tradition, body, sounds)

    @cases(
        ("clogging", "DS DT(xif) DT(x) RS",
         "&R brush, aR spank, 1R step, &L brush, aL spank, &L brush, aL spank, &L step, 4R step"),
        ("clogging", "S(xif) S(o) RS", "1R step, 2L step, &R step, 3L step"),
        ("clogging", "DS-R-S", "&R brush, aR spank, 1R step, &L step, 2R step"),
        ("clogging", "DSL DSR RSL", "&L brush, aL spank, 1L step, &R brush, aR spank, 2R step, &L step, 3R step"),
        ("clogging", "DS DSxib RS", "&R brush, aR spank, 1R step, &L brush, aL spank, 2L step, &R step, 3L step"),
        ("clogging", "stomp, DS RS (basic) x2",
         "1R stomp, &R brush, aR spank, 2R step, &L step, 3R step, &L brush, aL spank, 4L step, &R step, 5L step"),
        ("clogging", "DS K RS move left", "&R brush, aR spank, 1R step, 2L kick, &L step, 3R step"),
    )  # fmt: skip
    def test_cue_sheets(self, tradition: str, body: str, sounds: str) -> None:
        self.assert_read(tradition, body, sounds)

    @cases(
        ("tap", "flap 4", "&R brush, 4R step", ["“4 flap”", "“flap x4”"]),
        ("tap", "hop right 4", "4R hop", ["“4 hop right”", "“hop right x4”"]),
        ("tap", "stamp stamp clap 3", "1R flat, 2L flat, 3- clap",
         ["“stamp stamp clap”", "“( stamp stamp clap ) x3”"]),
        ("tap", "stamp 4 and clap", "4R flat, 5- clap", ["“4 stamp”", "“stamp x4”"]),
        ("tap", "2 flaps and a buffalo, clap", "&R brush, 2R step, 3L leap, &R brush, aR spank, 4R leap, 5- clap",
         ["“2 flap”", "“flaps x2”"]),
        ("clogging", "basic to the left", "&L brush, aL spank, 1L step, &R step, 2L step",
         ["“L basic to the left”", "“R basic to the left”"]),
        ("tap", "stamp for 3 counts, touch", "1R flat, 2L flat, 3R flat, 4L touch",
         ["“stamp x3”", "“stamp, hold x2”"]),
        ("clogging", "chain L chain R stomp",
         "&L brush, aL spank, 1L step, &R step, 2L step, &R step, 3L step, &R step, 4L step, "
         "&R brush, aR spank, 5R step, &L step, 6R step, &L step, 7R step, &L step, 8R step, 1L stomp",
         ["“L chain”", "“chain, L”"]),
        ("tap", "stomp heels together", "1R stomp, 2L heel", ["heels, then together", "heels together, the step"]),
        ("swing", "rock step, triple to the left", "1R step, 2L step, 3R step, aL step, 4R step",
         ["“triple going to the left”", "“L triple to the left”"]),
    )  # fmt: skip
    def test_what_may_be_meant_otherwise_is_asked(
        self, tradition: str, body: str, sounds: str, offers: list[str]
    ) -> None:
        self.assert_read(tradition, body, sounds, offers)

    @cases(
        ("tap", "step & step & step, hold", '"&" may be & or "then": say the counts, or part them by commas.'),
        ("tap", "1 stamp and clap and stamp", '"and" may be & or "then": say the counts, or part them by commas.'),
        ("latin", "forward and back, side", '"and" may be & or "then": say the counts, or part them by commas.'),
        ("latin", "adelante y atrás", '"y" may be & or "then": say the counts, or part them by commas.'),
        ("tap", "stamp 1 & clap", '"&" may be & or "then": say the counts, or part them by commas.'),
        ("tap", "step clap 3", "Say what is on 3, or how often all of it is danced: ( step clap ) x3."),
        ("tap", "no weight: stamp stamp",
         'Say "no weight" of each step: stamp without weight; or stomp for stamp, touch for step.'),
        ("tap", "stamp with both feet", 'Say "both stamp" for both feet at once, or "stamp R, stamp L".'),
        ("flatfoot", "slide forward on both feet twice",
         'Say "both slide" for both feet at once, or "slide R, slide L".'),
        ("tap", "pull back on both feet",
         'Say "pull back R, pull back L" for one after the other; for both at once, its sounds one by one.'),
        ("clogging", "clap on 2 and 4: DS DS DS RS",
         'Say "hands: 2 4 clap" in a line of its own, beside these steps.'),
        ("tap", "stamp clap, or clap stamp",
         'Write one of the two ways, or "or" right behind each step that may be another.'),
        ("tap", "shuffle over 2 counts", 'Say on which counts the sounds of "shuffle" are, such as 1 & shuffle.'),
        ("tap", "1.5 clap", 'Say "1 &" for half a count later, or "1+1/4".'),
        ("clogging", "8 count triple", "These steps take 4 counts, not 8."),
        ("folk stamping", "in 7: stamp clap clap",
         '"in 7" is said of the whole piece: write it in its head, as in meter: 7/8.'),
        ("tap", "step step step step\nclap on 2",
         "What is danced before 2 takes more counts than there are: say on which count it begins."),
        ("tap", "right side\nstamp", 'Say "right side:" before the steps that it is said of, or "right step side".'),
        ("tap", "step step\nhands: - clap - clap",
         'Say "hold" for a "-" on which nothing sounds; a comma parts steps.'),
        ("tap", "1 - 2 clap", 'Say "1-2" for both, or "hold" for a "-" on which nothing sounds.'),
        ("tap", "right heel out",
         '"heel out" makes no sound: say "swivel" for its count, or "heel drop" where it drops.'),
        ("tap", "stomp\nthe other foot: stomp", 'No step is called "other foot". Nearest: bota fogo, one foot jump.'),
        ("tap", "stomp\nsame foot: stomp", 'No step is called "same foot". Nearest: samba volta.'),
        ("tap", "hips: step touch", '"hips:" leads to steps: say "body: 1 hips left" of what it does.'),
        ("tap", "L: clap, R stamp", '"L" has no word after it.'),
        ("tap", "clap left, stamp", 'Say "clap, step left", or "clap to the left".'),
        ("tap", "stamp #1", 'What stands behind "#" is a remark: write "1" for a count.'),
        ("tap", "four shuffles, right foot, then stamp",
         'Say "step right" for a step, or which of those before it are right.'),
        ("tap", "cramp roll in 4 counts", 'Say "cramp roll x4", or "1 2 3 4 cramp roll" for a slow one.'),
        ("tap", "the last two counts: stamp stamp", 'Say which counts "the last two counts" are, such as 7-8.'),
        ("tap", "lift heel", 'Say "lift" for one sound, or "lift, heel" for two.'),
        ("folk stamping", "palma doble",
         'No step is called "palma doble". Nearest: paso doble, stamp double, palmada.'),
    )  # fmt: skip
    def test_what_is_asked_in_a_sentence(self, tradition: str, body: str, message: str) -> None:
        self.assert_asked(tradition, body, message)

    @cases(("heels out in out",), ("heels out, in, out",), ("toes out in",))
    def test_what_turns_on_the_floor_makes_no_sound(self, body: str) -> None:
        problems = [problem.message for problem in piece("tap", body).problems]
        self.assertTrue(problems)
        for message in problems:
            self.assertRegex(message, 'makes no sound: say "swivel"')

    @cases(("tap",), ("clogging",), ("folk stamping",), ("step dance",), ("latin",), ("house",))
    def test_two_steps_are_two(self, tradition: str) -> None:
        """A name of one word before another of one sounds as both, where the two are no name themselves."""
        shelf = shipped()
        names = [
            c.name
            for c in shelf.cards
            if " " not in c.name and tradition in (*c.traditions, *(() if c.traditions else (tradition,)))
        ]
        pairs = [
            f"{one} {other}"
            for one in names[::3]
            for other in names[1::4]
            if shelf.find(f"{one} {other}", tradition) is None
        ]
        self.assertGreater(len(pairs), 50)
        for pair in pairs:
            one = piece(tradition, pair)
            kinds = [s.kind for s in one.parts[0].sounds]
            first, _, last = pair.partition(" ")
            apart = [s.kind for name in (first, last) for s in piece(tradition, name).parts[0].sounds]
            plain = not (one.problems or doubted(one) or one.parts[0].footing.faults)
            self.assertTrue(sorted(kinds) == sorted(apart) or not plain, (pair, kinds))
