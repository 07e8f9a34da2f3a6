"""What is said in a way that means another which is read: feet, how many and how long behind their steps, names in
one word, letters with full stops.

What teachers mean by them is common practice, no source.
"""

from firn.core.piece.build import piece_from
from tests.core.read_case import ReadCase
from tests.core.test_readings import doubted, piece, said
from tests.support import cases


class RewordedTest(ReadCase):
    @cases(
        ("tap", "stamp with the right foot without changing weight, clap", "1R stomp, 2- clap"),
        ("tap", "stamp, don't change weight", "1R stomp"), ("tap", "stamp without a weight change", "1R stomp"),
        ("folk stamping", "golpe sin cambiar el peso", "1R stomp"),
    )  # fmt: skip
    def test_weight_that_is_not_changed(self, tradition: str, body: str, sounds: str) -> None:
        self.assert_read(tradition, body, sounds)

    @cases(
        ("tap", "flap (brush step)", "&R brush, 1R step"), ("tap", "stamp (stamp)", "1R flat, 2L flat"),
        ("swing", "(rock step) (rock step)", "1R step, 2L step, 3R step, 4L step"),
        ("clogging", "basic (DS RS) x2",
         "&R brush, aR spank, 1R step, &L step, 2R step, &L brush, aL spank, 3L step, &R step, 4L step"),
        ("tap", "shuffle (brush, spank) step", "&R brush, aR spank, 1R step"),
        ("tap", "cramp roll = step step heel heel, stamp", "1R step, 2L step, 3R heel, 4L heel, 5R flat"),
    )  # fmt: skip
    def test_a_figure_beside_its_sounds(self, tradition: str, body: str, sounds: str) -> None:
        one = piece(tradition, body)
        self.assertEqual((said(one), one.problems), (sounds, ()))

    @cases(
        ("swing", "triple step, triple step, rock step, that's your basic", 8),
        ("swing", "that is the basic: triple step triple step rock step", 8),
        ("swing", "triple step triple step rock step (that's the basic)", 8),
        ("clogging", "DS RS DS RS, that's two basics", 10), ("clogging", "this is a triple: DS DS DS RS", 11),
        ("clogging", "Triple - DS DS DS RS", 11), ("tap", "cramp roll – step step heel heel", 4),
        ("clogging", "basic - basic", 10), ("clogging", "triple - DS DS RS", 19),
        ("tap", "that's a flap", 2), ("tap", "flap, this is a flap", 2), ("tap", "stamp, it's a flap", 3),
    )  # fmt: skip
    def test_what_its_sounds_are_is_not_danced_again(self, tradition: str, body: str, many: int) -> None:
        one = piece(tradition, body)
        self.assertEqual((len(one.parts[0].sounds), one.problems), (many, ()))

    @cases(
        ("brush out and in, step", "1R brush, 2R brush, 3R step"),
        ("kick front and side", "1R kick, 2R kick"), ("lift your knee, stamp", "1R lift, 2R flat"),
        ("you're gonna go stamp clap", "1R flat, 2- clap"),
    )  # fmt: skip
    def test_what_goes_both_ways(self, body: str, sounds: str) -> None:
        self.assert_read("tap", body, sounds)

    def test_knees_may_be_patted_or_lifted(self) -> None:
        self.assertEqual(doubted(piece("folk stamping", "knees, clap")), [["“pat”", "“lift”"]])

    def test_three_with_a_foot_may_change_feet(self) -> None:
        offers = ["“R stamps x3”", "“R stomp, R stomp, R stamps”"]
        self.assertEqual(doubted(piece("tap", "three stamps right")), [offers])

    def test_a_name_by_its_counts_may_be_of_two(self) -> None:
        offers = ["“kicking basic”", "“eight-count swing basic”"]
        self.assertEqual(doubted(piece("swing", "8 count basic")), [offers])
        words = "tradition: swing\nwords: 8 count basic = {}\npart A\n8 count basic"
        for name, many in (("kicking basic", 8), ("eight-count swing basic", 10)):
            with self.subTest(name):
                one = piece_from(words.format(name))
                self.assertEqual((len(one.parts[0].sounds), doubted(one)), (many, []))

    @cases(
        ("tap", "on the left: shuffle ball change", "&L brush, 1L spank, &L step, 2R step"),
        ("tap", "on the left, shuffle ball change", "&L brush, 1L spank, &L step, 2R step"),
        ("tap", "right lead: flap flap", "&R brush, 1R step, &L brush, 2L step"),
        ("clogging", "DS RS, right foot lead, DS RS",
         "&R brush, aR spank, 1R step, &L step, 2R step, &R brush, aR spank, 3R step, &L step, 4R step"),
        ("tap", "hop hop, stamp with the free foot", "1L hop, 2L hop, 3R flat"),
        ("tap", "two stamps with the right and a clap", "1R flat, 2R flat, 3- clap"),
        ("latin", "quick quick slow starting with the left", "1L step, 2R step, 3L step, 4- hold"),
        ("latin", "step R cross L step R kick L", "1R step, 2L step, 3R step, 4L kick"),
        ("latin", "step R together L step R touch L", "1R step, 2L step, 3R step, 4L touch"),
        ("latin", "step L, close R to L, hold", "1L step, 2R step, 3- hold"),
        ("latin", "L-R-L, R-L-R", "1L step, 2R step, 3L step, 4R step, 5L step, 6R step"),
        ("swing", "LRL RLR", "1L step, 2R step, 3L step, 4R step, 5L step, 6R step"),
        ("swing", "rock right, step left, clap", "1R step, 2L step, 3- clap"),
        ("tap", "using the left foot, shuffle ball change", "&L brush, 1L spank, &L step, 2R step"),
        ("swing", "triple step to the left, triple step to the right",
         "1L step, aR step, 2L step, 3R step, aL step, 4R step"),
        ("tap", "four stamps, left foot first", "1L flat, 2R flat, 3L flat, 4R flat"),
        ("tap", "stamp stamp off the left foot", "1L flat, 2R flat"),
        ("tap", "stamp stamp, from the left", "1L flat, 2R flat"),
        ("folk stamping", "dos golpes, primero la izquierda", "1L flat, 2R flat"),
        ("tap", "4 count paddle roll, stamp", "1R dig, eR spank, &R step, aR heel, 2L flat"),
        ("tap", "left foot starts flap flap", "&L brush, 1L step, &R brush, 2R step"),
    )  # fmt: skip
    def test_feet_behind_steps(self, tradition: str, body: str, sounds: str) -> None:
        self.assert_read(tradition, body, sounds)

    @cases(
        ("tap", "two slow stamps, then four quick ones",
         "1R flat, 2- hold, 3L flat, 4- hold, 5R flat, 6L flat, 7R flat, 8L flat"),
        ("clogging", "1 DS, 1 RS, 2 times",
         "&R brush, aR spank, 1R step, &L step, 2R step, &L brush, aL spank, 3L step, &R step, 4L step"),
        ("tap", "walk four steps, stamp three times",
         "1R step, 2L step, 3R step, 4L step, 5R flat, 6L flat, 7R flat"),
        ("folk stamping", "caminando dos pasos, luego tres golpes", "1R step, 2L step, 3R flat, 4L flat, 5R flat"),
        ("folk stamping", "dos pasos caminando, golpe", "1R step, 2L step, 3R flat"),
        ("tap", "two flaps, then two more flaps",
         "&R brush, 1R step, &L brush, 2L step, &R brush, 3R step, &L brush, 4L step"),
        ("tap", "stamp one time, clap two times", "1R flat, 2- clap, 3- clap"),
        ("tap", "flap heel then clap twice", "&R brush, aR step, 1R heel, 2- clap, 3- clap"),
        ("tap", "alternating flaps x2", "&R brush, 1R step, &L brush, 2L step"),
        ("tap", "flap on alternate feet, two times", "&R brush, 1R step, &L brush, 2L step"),
        ("tap", "flaps alternating sides x2", "&R brush, 1R step, &L brush, 2L step"),
        ("clogging", "one basic one basic",
         "&R brush, aR spank, 1R step, &L step, 2R step, &L brush, aL spank, 3L step, &R step, 4L step"),
        ("tap", "stamps, 3", "1R flat, 2L flat, 3R flat"),
        ("tap", "2 times (stamp clap), then x2 stamp", "1R flat, 2- clap, 3L flat, 4- clap, 5R flat, 6L flat"),
        ("tap", "1-2: 2 stamps; 3: clap", "1R flat, 2L flat, 3- clap"),
        ("tap", "Start with the feet together. Stamp, clap.", "1R flat, 2- clap"),
        ("tap", "the step goes: stamp, clap", "1R flat, 2- clap"),
        ("latin", "two slows, four quicks",
         "1R step, 2- hold, 3L step, 4- hold, 5R step, 6L step, 7R step, 8L step"),
        ("latin", "two quick steps and one slow step", "1R step, 2L step, 3R step, 4- hold"),
        ("tap", "walk forward 2, back 2, stamp", "1R step, 2L step, 3R step, 4L step, 5R flat"),
        ("tap", "two stamps forward and three back", "1R flat, 2L flat, 3R flat, 4L flat, 5R flat"),
        ("latin", "2 step back, 3 step forward", "2R step, 3L step"),
        ("tap", "3 stamps then 2 claps then hold 2", "1R flat, 2L flat, 3R flat, 4- clap, 5- clap, 6- hold, 7- hold"),
        ("step dance", "one seven, a stamp",
         "1R step, &L step, 2R step, &L step, 3R step, &L step, 4R step, 5L flat"),
        ("step dance", "1 seven and a stamp",
         "1R step, &L step, 2R step, &L step, 3R step, &L step, 4R step, 5L flat"),
        ("clogging", "basics to the right, two",
         "&R brush, aR spank, 1R step, &L step, 2R step, &L brush, aL spank, 3L step, &R step, 4L step"),
        ("tap", "one stamp one clap two stamps", "1R flat, 2- clap, 3L flat, 4R flat"),
        ("tap", "1 2 3 4: four stamps", "1R flat, 2L flat, 3R flat, 4L flat"),
        ("clogging", "&1 &2 DS x2", "&R brush, aR spank, 1R step, &L brush, aL spank, 2L step"),
    )  # fmt: skip
    def test_how_many(self, tradition: str, body: str, sounds: str) -> None:
        self.assert_read(tradition, body, sounds)

    @cases(
        ("clogging", "DS RS for 4 counts",
         "&R brush, aR spank, 1R step, &L step, 2R step, &L brush, aL spank, 3L step, &R step, 4L step"),
        ("tap", "paddle and roll, 2 counts",
         "1R dig, eR spank, &R step, aR heel, 2L dig, eL spank, &L step, aL heel"),
        ("tap", "walk eight counts", "1R step, 2L step, 3R step, 4L step, 5R step, 6L step, 7R step, 8L step"),
        ("tap", "nerve tap right, 2 counts",
         "1R touch, eR touch, &R touch, aR touch, 2R touch, eR touch, &R touch, aR touch"),
        ("tap", "stamp on every beat for four", "1R flat, 2L flat, 3R flat, 4L flat"),
        ("folk stamping", "pausa de dos tiempos, golpe", "1- hold, 2- hold, 3R flat"),
        ("tap", "slide right 2 counts, stamp", "1R slide, 2- hold, 3L flat"),
        ("tap", "walks 2 counts then stamps 2 counts", "1R step, 2L step, 3R flat, 4L flat"),
        ("tap", "drawbacks, alternating, 2 counts", "&R spank, aL heel, 1R step, &L spank, aR heel, 2L step"),
        ("tap", "stamp and hold for 2 counts", "1R flat, 2- hold, 3- hold"),
        ("tap", "step right, stay for 3", "1R step, 2- hold, 3- hold, 4- hold"),
        ("clogging", "two basics, 4 counts, then a clap, 1 count",
         "&R brush, aR spank, 1R step, &L step, 2R step, &L brush, aL spank, 3L step, &R step, 4L step, 5- clap"),
        ("clogging", "2 count basic, clap", "&R brush, aR spank, 1R step, &L step, 2R step, 3- clap"),
        ("latin", "two 4 count vines",
         "1R step, 2L step, 3R step, 4L touch, 5L step, 6R step, 7L step, 8R touch"),
        ("latin", "8 count basic", "1R step, 2L step, 3R step, 4- hold, 5L step, 6R step, 7L step, 8- hold"),
    )  # fmt: skip
    def test_how_long(self, tradition: str, body: str, sounds: str) -> None:
        self.assert_read(tradition, body, sounds)

    @cases(
        ("tap", "flap 1, 2, 3, ball change 4",
         "&R brush, 1R step, &L brush, 2L step, &R brush, 3R step, &L step, 4R step"),
        ("clogging", "DS DS RS clap on 4",
         "&R brush, aR spank, 1R step, &L brush, aL spank, 2L step, &R step, 3L step, 4- clap"),
        ("tap", "stamp on 1, 2 and 4; clap on 3", "1R flat, 2L flat, 3- clap, 4R flat"),
        ("tap", "we do clap on the and of 1 and the and of 3", "&- clap, &- clap"),
        ("tap", "clap 1 2 3 4", "1- clap, 2- clap, 3- clap, 4- clap"),
        ("tap", "right heel 1 2", "1R heel, 2R heel"),
        ("tap", "two shuffles, then a ball change and clap on 4",
         "&R brush, aR spank, &R brush, aR spank, &R step, 3L step, 4- clap"),
        ("tap", "stamp stamp and clap on 4", "1R flat, 2L flat, 4- clap"),
        ("tap", "1 flap 2 flap and clap on 3", "&R brush, 1R step, &L brush, 2L step, 3- clap"),
        ("tap", "first beat stamp, second beat clap", "1R flat, 2- clap"),
        ("tap", "hold 1 then stamp stamp", "1- hold, 2R flat, 3L flat"),
        ("tap", "shuffle ball change on 1&2, stamp on 3", "&R brush, 1R spank, &R step, 2L step, 3R flat"),
        ("latin", "1 2 3, 5 6 7", "1R step, 2L step, 3R step, 5L step, 6R step, 7L step"),
        ("swing", "1 2, 3 and 4", "1R step, 2L step, 3R step, &L step, 4R step"),
        ("house", "walk back 1 2 3, stomp 4", "1R step, 2L step, 3R step, 4L stomp"),
        ("swing", "6-count basic", "1R step, 2L step, 3R step, aL step, 4R step, 5L step, aR step, 6L step"),
    )  # fmt: skip
    def test_counts(self, tradition: str, body: str, sounds: str) -> None:
        self.assert_read(tradition, body, sounds)

    @cases(
        ("tap", "ballchange, double timestep",
         "&R step, 1L step, 2R stomp, 3L hop, &R brush, 4R step, &L brush, 5L step, &R step"),
        ("clogging", "doublestep rockstep", "&R brush, aR spank, 1R step, &L step, 2R step"),
        ("clogging", "D.S. D.S. R.S.", "&R brush, aR spank, 1R step, &L brush, aL spank, 2L step, &R step, 3L step"),
        ("clogging", "D S D S R S", "&R brush, aR spank, 1R step, &L brush, aL spank, 2L step, &R step, 3L step"),
        ("clogging", "DS 1/4L DS RS", "&R brush, aR spank, 1R step, &L brush, aL spank, 2L step, &R step, 3L step"),
        ("clogging", "DS touch heel, DS touch toe",
         "&R brush, aR spank, 1R step, 2L dig, &L brush, aL spank, 3L step, 4R touch"),
        ("clogging", "toe touch front, toe touch side", "1R touch, 2R touch"),
        ("folk stamping", "slap right thigh, slap your left knee, clap", "1- pat, 2- pat, 3- clap"),
        ("tap", "both hands clap, both feet jump", "1- clap, 2B jump"),
        ("tap", "clap (both hands), stamp", "1- clap, 2R flat"),
        ("tap", "lift your right knee, stamp right", "1R lift, 2R flat"),
        ("tap", "drop right heel on 1, left heel on 2", "1R heel, 2L heel"),
        ("tap", "stamp no weight, stamp", "1R stomp, 2R flat"),
        ("tap", "stomp with weight", "1R flat"),
        ("flatfoot", "flat flat heel flat, keep it low", "1R flat, 2L flat, 3L heel, 4R flat"),
        ("clogging", "DS DS DS RS (that's a triple)",
         "&R brush, aR spank, 1R step, &L brush, aL spank, 2L step, &R brush, aR spank, 3R step, &L step, 4R step"),
        ("tap", "flap into a shuffle, followed by a ball change",
         "&R brush, 1R step, &L brush, aL spank, &L step, 3R step"),
        ("tap", "heavy stamp, light tap", "1R flat, 2L touch"),
        ("folk stamping", "golpecito, pasito, saltito", "1R flat, 2L step, 3B jump"),
        ("folk stamping", "salta, golpea, brinca", "1B jump, 2R flat, 3B jump"),
        ("latin", "toca punta derecha, paso derecho", "1R toe_tip, 2R step"),
        ("swing", "points: step point step point", "1R step, 2L point, 3L step, 4R point"),
        ("tap", "pivot turn right, step", "1- pivot, 2R step"),
        ("tap", "stamp left. Right stamp", "1L flat, 2R flat"),
        ("folk stamping", "right heel in front, close", "1R dig, 2R step"),
        ("tap", "'stamp clap' twice", "1R flat, 2- clap, 3L flat, 4- clap"),
        ("tap", "long stamp, short stamp short stamp", "1R flat, 2- hold, 3L flat, 4R flat"),
        ("tap", "step one: flap, step two: stamp", "&R brush, 1R step, 2L flat"),
        ("swing", "we do points: step point", "1R step, 2L point"),
        ("clogging", "DS-L DS-R RS-L", "&L brush, aL spank, 1L step, &R brush, aR spank, 2R step, &L step, 3R step"),
        ("tap", "flap (R, L, R)", "&R brush, 1R step, &L brush, 2L step, &R brush, 3R step"),
        ("tap", "stamp clap, 4x", "1R flat, 2- clap, 3L flat, 4- clap, 5R flat, 6- clap, 7L flat, 8- clap"),
        ("tap", "stamp clap, then twice", "1R flat, 2- clap, 3L flat, 4- clap"),
        ("tap", "add a clap on 4: stamp stamp stamp", "1R flat, 2L flat, 3R flat, 4- clap"),
        ("tap", "first four: stamp, last four: clap",
         "1R flat, 2L flat, 3R flat, 4L flat, 5- clap, 6- clap, 7- clap, 8- clap"),
        ("tap", "clap last: stamp stamp", "1R flat, 2L flat, 3- clap"),
        ("swing", "step (1) hold (2) step (3) hold (4)", "1R step, 2- hold, 3L step, 4- hold"),
        ("latin", "step L fwd on 1, R in place on 2", "1L step, 2R step"),
        ("latin", "side-together-side-tap", "1R step, 2L step, 3R step, 4L touch"),
        ("tap", "three stamps, the clap is on 4", "1R flat, 2L flat, 3R flat, 4- clap"),
        ("tap", "stamp from 1 to 4", "1R flat, 2L flat, 3R flat, 4L flat"),
        ("tap", "a couple of flaps, one more flap", "&R brush, 1R step, &L brush, 2L step, &R brush, 3R step"),
        ("tap", "4 stamp, 4 clap", "1R flat, 2L flat, 3R flat, 4L flat, 5- clap, 6- clap, 7- clap, 8- clap"),
        ("tap", "stamp 2, clap 2", "1R flat, 2L flat, 3- clap, 4- clap"),
        ("tap", "all twice: step clap", "1R step, 2- clap, 3L step, 4- clap"),
        ("tap", "brush right forward and back, step", "1R brush, &R spank, 2R step"),
    )  # fmt: skip
    def test_words(self, tradition: str, body: str, sounds: str) -> None:
        self.assert_read(tradition, body, sounds)

    @cases(
        ("step dance", "hop 1 2 3, hop 1 2 3", "aL hop, 1R step, &L step, 2R step, aR hop, 3L step, &R step, 4L step",
         ["“skip three, skip three”", "“1 hop  2 hop  3 hop, 1 hop  2 hop  3 hop”"]),
        ("folk stamping", "stamp right three times", "1R flat, 2L flat, 3R flat",
         ["“R stamp x3”", "“R stomp, R stomp, R stamp”"]),
        ("folk stamping", "stamp on the right twice, clap", "1R stomp, 2R flat, 3- clap",
         ["“R stomp, R stamp”", "“R stamp x2”"]),
        ("tap", "stamp and clap on 4", "4R flat, 4- clap", ["“+”", "“then”"]),
        ("tap", "step right and tap left twice", "1R step, &L touch, &L touch",
         ["“step right  ( and tap left ) x2”", "“( step right and tap left ) x2”"]),
        ("tap", "kick right heel back", "1R kick", ["“R kick”", "“R kick, heel”"]),
        ("tap", "point R toe in front of L", "1R point", ["“R point”", "“R point, toe”"]),
        ("tap", "tap right toe behind", "1R toe_tip", ["“R toe tip”", "“R tap, toe”"]),
        ("tap", "tap the right toe twice and stamp", "1R toe_tip, 2R toe_tip, 3R flat",
         ["“R toe tip”", "“R tap, toe”"]),
        ("tap", "touch the right toe behind", "1R touch", ["“R touch toe”", "“R touch, toe”"]),
        ("tap", "4x stamp clap", "1R flat, 2- clap, 3L flat, 4- clap, 5R flat, 6- clap, 7L flat, 8- clap",
         ["“( stamp clap ) x4”", "“stamp x4 clap”"]),
        ("tap", "stamp then flap on both sides", "1R flat, &L brush, 2L step, &R brush, 3R step",
         ["“stamp\nflap\non both sides”", "“stamp then flap\non both sides”"]),
        ("tap", "stamp 1, touch 2 and 3", "1R flat, 2L touch, 3L touch", ["“2 3”", "“2 & 3”"]),
        ("tap", "on 1 and 2 stamp", "1R flat, 2L flat", ["“1 2”", "“1 & 2”"]),
        ("tap", "stamp clap, reverse", "1R flat, 2- clap, 3L flat, 4- clap",
         ["this, then the same on the other side", "the other side alone"]),
    )  # fmt: skip
    def test_what_may_be_meant_otherwise_is_asked(
        self, tradition: str, body: str, sounds: str, offers: list[str]
    ) -> None:
        self.assert_read(tradition, body, sounds, offers)

    @cases(
        ("tap", "flap flap step for 8 counts", '"flap flap step" takes 3 counts, which do not go into 8.'),
        ("tap", "stamp clap, swung", '"swung" is not heard: say it by the counts, or in the head of the piece.'),
        ("clogging", "rock step x4 turning left", 'Say how far and which way "x4 turning" turns: 1/4 left.'),
        ("tap", "buffalo turn", 'Say how far "buffalo turn" turns, as in 1/4 left; or "buffalo, turn".'),
        ("tap", "clap on 4: stamp stamp", 'Say on which counts the other steps are beside "clap on 4".'),
        ("tap", "toe & heel & toe", '"&" may be & or "then": say the counts, or part them by commas.'),
        ("tap", "triple irish", 'No step is called "triple irish".'),
        ("tap", "click heels", 'Say "click" for one sound, or "click, heels" for two.'),
        ("step dance", "1 2 3", "These counts have no word: write hold where nothing sounds."),
    )  # fmt: skip
    def test_what_is_asked_in_a_sentence(self, tradition: str, body: str, message: str) -> None:
        self.assert_asked(tradition, body, message)
