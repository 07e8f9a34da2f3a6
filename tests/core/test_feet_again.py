"""A foot and how often said anew, names that stand in a row, counts before and after their steps, steps danced
turning. Common practice, no source."""

from tests.core.read_case import ReadCase
from tests.core.test_readings import doubted, piece
from tests.support import cases


class FeetAgainTest(ReadCase):
    @cases(
        ("tap", "two stamps, right first, brush 2x on the right", "R stamp L stamp R brush R brush"),
        ("folk stamping", "three golpes, left first, three steps, right first", "L golpe x3, R step x3"),
        ("tap", "four heel drops (left), then two stamps, starting with the left foot", "L heel drop x4, L stamp x2"),
        ("folk stamping", "L: heel x4, then starting left, four steps", "L heel x4, L step x4"),
        ("house", "L kick crossing behind, R kick sideways", "L kick behind, R kick side"),
        ("solo jazz", "touch going in front, kick going to the side", "touch front, kick side"),
        ("tap", "brush right backwards", "R brush back"),
        ("folk stamping", "dos tacones con el pie izquierdo", "L tacón, L tacón"),
        ("folk stamping", "golpe al cinco, luego palma al siete", "5 golpe 7 palma"),
        ("folk stamping", "golpe del pie izquierdo, palma", "L golpe, palma"),
        ("tap", "stomp (3) and stamp (4)", "3 stomp 4 stamp"),
        ("tap", "heel R twice L twice", "R heel R heel L heel L heel"),
        ("tap", "heel right three times left once", "R heel R heel R heel L heel"),
        ("tap", "brush R, R", "R brush R brush"),
        ("tap", "flap flap ball change, starting on 8", "8 flap flap ball change"),
        ("tap", "step touch step touch, starting on count 5", "5 step 6 touch 7 step 8 touch"),
        ("folk stamping", "golpe golpe, empezando en el 8", "8 golpe golpe"),
        ("folk stamping", "golpe una vez, palma dos veces", "golpe, palma, palma"),
        ("folk stamping", "1 golpe d 2 golpe i", "1 R golpe 2 L golpe"),
        ("step dance", "7s R, 3s twice", "R sevens, threes, threes"),
        ("step dance", "7's, two 3's", "sevens, threes, threes"),
        ("step dance", "rally hop back", "treble hop back"),
        ("tap", "3 stamps on 1 2 3, then clap on 4", "1 stamp 2 stamp 3 stamp 4 clap"),
        ("tap", "4 stamps on 1-4, 4 claps on 5-8", "1-4 stamp  5-8 clap"),
        ("tap", "2 stamps on 1 and 2, clap on 3", "1 stamp 2 stamp 3 clap"),
        ("tap", "3 stamps on 1 and 2, clap on 3", "1 stamp & stamp 2 stamp 3 clap"),
        ("latin", "1-4 basic forward, 5-8 basic back", "1-4 mambo forward  5-8 mambo back"),
        ("latin", "basic forward and back", "mambo on one"),
        ("folk stamping", "heel-R stamp-R toe tip-L", "R heel R stamp L toe tip"),
        ("house", "kick on right  step-R  stamp L  stamp-R", "R kick R step L stamp R stamp"),
        ("tap", "shuffle ball change-R", "R shuffle ball change"),
        ("clogging", "brush (L)  L DS", "L brush, L DS"),
        ("house", "stamp (L)  R: kick", "L stamp, R kick"),
        ("folk stamping", "your right stomp your right step", "R stomp R step"),
        ("folk stamping", "heel with the right foot and then stomp", "R heel, stomp"),
        ("tap", "stamp on right flap left", "R stamp L flap"),
        ("tap", "heel heel heel (R), heel heel heel (L)", "R heel R heel R heel, L heel L heel L heel"),
        ("tap", "toe toe R, stomp stomp stomp R", "R toe R toe, R stomp R stomp R stomp"),
        ("tap", "step step stamp (R)", "R step L step R stamp"),
        ("tap", "right foot: heel, heel, heel; left foot: toe, toe", "R heel R heel R heel, L toe L toe"),
        ("tap", "left: tap, tap, stamp", "L tap, tap, L stamp"),
    )
    def test_as_it_is_written_out(self, tradition: str, said: str, written: str) -> None:
        self.assert_as_written(tradition, said, written)

    @cases(
        ("tap", "touch heel touch heel", "touch heel, then touch heel", "touch, then heel, then touch, then heel"),
        ("clogging", "DS Tch(f) H Tch(b) H", "heel, then touch back", "heel touch back, the step"),
        ("house", "heel step heel step, clap 4", "heel step, the step", "heel, then step"),
        ("tap", "shuffle R, R, L", "“R step”", "“R shuffle”"),
        ("tap", "shuffle on 1, hop on &", "“&a shuffle  1 hold”", "“&1 shuffle”"),
        ("step dance", "1 batter & hop a back", "“&a batter  1 hold”", "“&1 batter”"),
        ("solo jazz", "kick step back", "“kick-step-back”", "“kick step, back”"),
        ("tap", "stamp on R 3 times", "“R stomp, R stomp, R stamp”", "“R stamp x3”"),
        (
            "solo jazz",
            "stomp left x2. step left, 2 times",
            "“stomp left x2.  ( step left, ) x2”",
            "“( stomp left x2. step left ) x2”",
        ),
        ("tap", "step right and step left", "“&”", "“then”"),
        ("folk stamping", "golpe (D) y planta (I)", "“&”", "“then”"),
        ("tap", "stomp, left foot", "“L stomp”", "“stomp, L step”"),
        ("tap", "stamp, left, clap", "“stamp, L step”", "“L stamp”"),
        ("tap", "stamp, left and then clap", "“stamp, L step”", "“L stamp”"),
        ("house", "a touch on the left / kick, left foot", "“L kick”", "“kick, L step”"),
        ("latin", "basic forward, basic back", "“mambo break”", "“mambo on one”"),
    )
    def test_what_could_be_otherwise_is_asked(self, tradition: str, said: str, read: str, other: str) -> None:
        one = piece(tradition, said)
        self.assertEqual([p.message for p in one.problems], [])
        offers = next(offers for offers in doubted(one) if offers[0] == read)
        self.assertIn(other, offers)

    @cases(
        ("latin", "step on 2 and the & of 5, kick on the & of 8", "2 step  5+1/2 step  8+1/2 kick"),
        ("tap", "on one, the and of four and eight clap", "1 clap  4+1/2 clap  8 clap"),
        ("house", "a kick on 1 and a stamp on the & of 4", "1 kick  4+1/2 stamp"),
        ("tap", "2 - touch  4 - stomp  the & of 8 - clap", "2 touch  4 stomp  8+1/2 clap"),
        ("tap", "one - dig  the and of four - clap", "1 dig  4+1/2 clap"),
        ("tap", "on 4 there's a stamp / on the & of 5 there's a clap", "4 stamp  5+1/2 clap"),
        ("tap", "clap: 4 / dig: 6 / stamp: the & of 7", "4 clap 6 dig  7+1/2 stamp"),
        ("house", "stamp: two and eight", "2 stamp 8 stamp"),
        ("tap", "flaps: 4. stamps: 2.", "flap x4, stamp x2"),
        ("step dance", "one-four steps. five-eight stamps", "1-4 step  5-8 stamp"),
        ("tap", "one = clap, then three = stamp", "1 clap 3 stamp"),
        ("house", "stamp (2), kick (the & of 4), clap (8)", "2 stamp  4+1/2 kick  8 clap"),
        ("tap", "heel drop (five), clap (the and of eight)", "5 heel drop  8+1/2 clap"),
        ("latin", "step (three and the and of six), kick (the and of seven)", "3 step  6+1/2 step  7+1/2 kick"),
        ("tap", "clap on 1 and 6; dig on the & of 2 and the & of 4", "1 clap  2+1/2 dig  4+1/2 dig  6 clap"),
        ("tap", "spank right on 1, and clap right on 4", "1 R spank 4 clap"),
        ("step dance", "point on 2, 4 and 6. step on 3", "2 point 3 step 4 point 6 point"),
    )
    def test_halves_of_other_counts(self, tradition: str, said: str, written: str) -> None:
        self.assert_as_written(tradition, said, written)

    @cases(
        ("2 and 3: step", "“2 & 3”", "“2 3”"),
        ("steps on four, five, six and seven", "“6 7”", "“6 & 7”"),
        ("step on one and two", "“1 2”", "“1 & 2”"),
        ("on 2 and 3 step", "“2 3”", "“2 & 3”"),
        ("1, 2 and 3: step", "“2 3”", "“2 & 3”"),
        ("dig (1 and 2)", "“1 2”", "“1 & 2”"),
        ("shuffle step (1 and 2)", "“1 & 2”", "“1 2”"),
        ("clap on 1 and 7; dig on 2", "“1 clap  2 dig  7 clap”", "“1 clap  7 clap  2 dig”"),
        (
            "clap on 1 and 7; dig on the & of 2",
            "“1 clap  2+1/2 dig  7 clap”",
            "“1 clap  7 clap  2+1/2 dig”",
        ),
    )
    def test_what_an_and_between_counts_may_be(self, said: str, read: str, other: str) -> None:
        one = piece("tap", said)
        self.assertEqual(([p.message for p in one.problems], doubted(one)), ([], [[read, other]]))

    @cases(
        ("latin", "turning 1/4 left, mambo break", "mambo break 1/4 left"),
        ("clogging", "basic, then turning half right, step", "basic, step 1/2 right"),
        ("clogging", "turning 1/4 right, basic, turning 1/2 left, step", "basic 1/4 right, step 1/2 left"),
        ("house", "stomp. step while turning quarter right", "stomp, step 1/4 right"),
        ("swing", "do a quarter turn right on the triple step", "triple step 1/4 right"),
        ("latin", "make the chasse turn 1/4 right, then mambo break", "chasse 1/4 right, mambo break"),
    )
    def test_steps_danced_turning(self, tradition: str, said: str, written: str) -> None:
        turns = [
            [sound.turn for sound in read.parts[0].sounds]
            for read in self.assert_as_written(tradition, said, written)
        ]
        self.assertEqual(turns[0], turns[1])

    @cases(
        ("triple, turn 1/2 left, basic", "“triple, turn 1/2 left”", "“triple 1/2 left”"),
        ("DS and turn quarter left", "“DS, turn 1/4 left”", "“DS 1/4 left”"),
    )
    def test_a_turn_of_its_own_or_of_the_step_before(self, said: str, read: str, other: str) -> None:
        one = piece("clogging", said)
        self.assertEqual(([p.message for p in one.problems], doubted(one)), ([], [[read, other]]))

    @cases(("folk stamping", "clap thigh"), ("folk stamping", "clap your thighs"), ("folk stamping", "palma muslo"))
    def test_a_clap_on_the_body_is_asked_about(self, tradition: str, said: str) -> None:
        self.assertIn('Say "pat" for a hand on it', piece(tradition, said).problems[0].message)
