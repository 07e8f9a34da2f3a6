"""Talk to learn from that is nobody's foot: sentences and counts of synthesizers, in many voices."""

import subprocess
from pathlib import Path

ENGLISH = (
    "one two three four five six seven eight", "one and two and three and four and", "one e and a two e and a",
    "and shuffle ball change, shuffle ball change", "heel toe, heel toe, step and stamp", "five six seven eight",
    "let us do that again from the top, and a little slower", "good, now the other side", "watch the left foot",
    "keep your weight forward and breathe", "who has a question before we go on", "take a sip of water, please",
    "that was much better, did you hear the difference", "ready, and", "no, wait, wait", "step together step touch",
)  # fmt: skip
OTHERS = {
    "es": ("uno dos tres cuatro cinco seis siete ocho", "otra vez desde el principio", "punta tacón planta y golpe"),
    "de": (
        "eins zwei drei vier fünf sechs sieben acht",
        "und noch einmal von vorn",
        "und jetzt die andere Seite",
    ),
    "pl": ("raz dwa trzy cztery pięć sześć siedem osiem", "jeszcze raz od początku"),
    "pt": ("um dois três quatro cinco seis sete oito", "mais uma vez, por favor"),
    "hu": ("egy kettő három négy öt hat hét nyolc", "még egyszer az elejéről"),
    "sv": ("ett två tre fyra fem sex sju åtta", "en gång till från början"),
}
TUNES = ("", "+f2", "+f4", "+m2", "+m5", "+m7")
FLITE = ("kal16", "awb", "rms", "slt")


def speak(folder: Path) -> None:
    """Writes them all into a folder as WAV files, with eSpeak NG and flite; what is there already stays."""
    folder.mkdir(parents=True, exist_ok=True)
    lines = [("en-us", line) for line in ENGLISH] + [(tongue, line) for tongue in OTHERS for line in OTHERS[tongue]]
    for number, (tongue, line) in enumerate(lines):
        for k, tune in enumerate(TUNES):
            out = folder / f"espeak-{number}-{k}.wav"
            if not out.exists():
                pace, pitch = 120 + 23 * ((number + 3 * k) % 9), 25 + 11 * ((2 * number + k) % 6)
                said = ["espeak-ng", "-v", tongue + tune, "-s", str(pace), "-p", str(pitch), "-w", str(out), line]
                subprocess.run(said, check=True)
        if tongue == "en-us":
            for voice in FLITE:
                out = folder / f"flite-{number}-{voice}.wav"
                if not out.exists():
                    subprocess.run(["flite", "-voice", voice, "-t", line, "-o", str(out)], check=True)
