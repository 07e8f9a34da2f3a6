"""`run` on machines that are not here, with stand-ins for what it asks: Debian 12 and 13, with and without rights."""

import os
import shutil
import stat
import subprocess
import unittest
from pathlib import Path

from tests.support import FolderCase, cases

ROOT = Path(__file__).parents[1]
BOOKWORM = ["libglib2.0-0", "libasound2"]
TRIXIE = ["libglib2.0-0t64", "libasound2t64"]
BOTH = ["libegl1", "libgl1", "libx11-6", "libdbus-1-3", "libfontconfig1", "libfreetype6", "libxkbcommon0",
        "libxkbcommon-x11-0", "libxcb-cursor0", "libxcb-icccm4", "libxcb-keysyms1", "libxcb-shape0", "libpulse0",
        "fonts-dejavu-core"]  # fmt: skip

STANDINS = {
    # What dpkg has, a line each in `packages`.
    "dpkg-query": """shift 3
for name; do grep -qx "$name" "$STATE/packages" && echo "install ok installed $name" || failed=yes; done
[ -z "${failed:-}" ]""",
    "apt-cache": '[ "$1" = show ] && grep -qx "$2" "$STATE/archive" && echo "Package: $2"',
    "apt-get": """echo "apt-get $*" >>"$STATE/asked"
case $1 in install) [ ! -e "$STATE/no-network" ] || { echo "Temporary failure resolving 'deb'" >&2; exit 100; }
for name; do case $name in -*|install) ;; *) echo "$name" >>"$STATE/packages" ;; esac; done ;; esac""",
    "sudo": """echo "sudo $*" >>"$STATE/asked"
[ ! -e "$STATE/no-sudo" ] || exit 1
[ "$1" = -n ] && exit 0
"$@" """,
    "id": 'cat "$STATE/uid"',
    # A Python that makes environments and "installs" into them.
    "python3.11": """case $1 in
-c) case $2 in *venv*) [ ! -e "$STATE/no-venv" ] || grep -q python3-venv "$STATE/packages" ;; esac ;;
-m) [ "$2" = venv ] && mkdir -p "$3/bin" && cp "$STATE/venv-python" "$3/bin/python" ;; esac""",
}
VENV_PYTHON = """#!/bin/sh
echo "python $*" >>"$STATE/asked"
case "$*" in
*"pip install"*)
[ ! -e "$STATE/no-network" ] || { echo "NewConnectionError: Failed to establish a new connection" >&2; exit 1; }
echo "Collecting numpy"; echo "Downloading numpy-2.4.6-cp311.whl (16.9 MB)" ;;
esac
"""


class RunCase(FolderCase):
    def setUp(self) -> None:
        super().setUp()
        self.clone, self.state, self.bin = (self.folder / n for n in ("clöne with space", "state", "bin"))
        for folder in (self.clone, self.state, self.bin):
            folder.mkdir()
        locks = (f"requirements{which}.lock" for which in ("", "-dev", "-bench", "-alone"))
        for name in ("run", *locks):
            shutil.copy(ROOT / name, self.clone / name)
        for name, body in STANDINS.items():
            self.program(self.bin / name, f"#!/bin/sh\n{body}\n")
        self.program(self.state / "venv-python", VENV_PYTHON)
        for name in ("python3.12", "python3.13", "python3"):
            self.program(self.bin / name, "#!/bin/sh\nexit 1\n")
        self.machine(BOOKWORM, root=False)

    @staticmethod
    def program(path: Path, text: str) -> None:
        path.write_text(text)
        path.chmod(path.stat().st_mode | stat.S_IXUSR)

    def machine(self, there: list[str], *, root: bool, archive: list[str] = BOOKWORM, **has: bool) -> None:
        """A machine with packages that are there and those in its archive; `has` names what is in its way."""
        (self.state / "packages").write_text("\n".join([*there, *BOTH, ""]) if there else "")
        (self.state / "archive").write_text("\n".join([*archive, *BOTH, "python3", "python3-venv"]))
        (self.state / "uid").write_text("0" if root else "1000")
        (self.state / "asked").write_text("")
        for name in ("no-network", "no-sudo", "no-venv"):
            (self.state / name).unlink(missing_ok=True)
            if has.get(name.replace("-", "_")):
                (self.state / name).touch()

    def run_demo(self, *, without: tuple[str, ...] = ()) -> tuple[int, str]:
        for name in without:
            (self.bin / name).unlink()
        env = {
            "PATH": f"{self.bin}:{self.plain()}",
            "STATE": str(self.state),
            "DISPLAY": ":0",
            "HOME": str(self.folder),
            # Of the stand-ins' own folder, not that of this machine.
            "PYTHON": "",
        }
        done = subprocess.run(
            ["/bin/sh", str(self.clone / "run"), "demo"],
            env=env,
            capture_output=True,
            text=True,
            stdin=subprocess.DEVNULL,
        )
        return done.returncode, done.stderr

    def plain(self) -> Path:
        """A folder of the few ordinary programs that `run` uses, so that none of this machine's others is found."""
        folder = self.folder / "plain"
        if not folder.exists():
            folder.mkdir()
            for name in ("sh", "dirname", "grep", "sed", "tr", "cat", "cmp", "basename", "mkdir", "rm", "cp", "env"):
                found = shutil.which(name)
                assert found is not None, name
                (folder / name).symlink_to(found)
        return folder

    @property
    def asked(self) -> list[str]:
        return (self.state / "asked").read_text().splitlines()


class SetUpTest(RunCase):
    @cases(("Debian 12", BOOKWORM), ("Debian 13", TRIXIE))
    def test_no_rights_and_no_apt_where_all_is_there(self, _: str, there: list[str]) -> None:
        self.machine(there, root=False, no_sudo=True)
        (self.bin / "apt-get").unlink(missing_ok=True)
        status, said = self.run_demo()
        self.assertEqual(status, 0, said)
        self.assertEqual([a for a in self.asked if a.startswith(("apt", "sudo"))], [])
        self.assertIn("python -m firn --demo", self.asked[-1])

    @cases(("Debian 12", BOOKWORM), ("Debian 13", TRIXIE))
    def test_what_is_missing_is_asked_for_once_by_its_name_there(self, _: str, archive: list[str]) -> None:
        self.machine([], root=False, archive=archive, no_venv=True)
        shutil.rmtree(self.clone / ".venv", ignore_errors=True)
        status, said = self.run_demo()
        self.assertEqual(status, 0, said)
        installs = [a for a in self.asked if a.startswith("apt-get install")]
        self.assertEqual(len(installs), 1)
        for name in (*archive, "libpulse0", "python3-venv"):
            self.assertIn(f" {name}", installs[0])

    def test_no_rights(self) -> None:
        self.machine([], root=False, no_sudo=True)
        status, said = self.run_demo()
        self.assertEqual(status, 1)
        self.assertRegex(said, r"^Firn needs these packages: libglib2.0-0 .*Ask an administrator to install them")
        self.assertNotIn("/", said.split(".")[0])

    def test_no_debian(self) -> None:
        self.machine([], root=False)
        status, said = self.run_demo(without=("dpkg-query", "apt-get", "apt-cache"))
        self.assertEqual(status, 0, said)

    def test_what_is_fetched_is_said_once(self) -> None:
        status, said = self.run_demo()
        self.assertEqual(status, 0)
        self.assertEqual(
            said.splitlines(),
            ["Fetching what Firn runs on, about 170 MB", *["  numpy-2.4.6-cp311.whl (16.9 MB)"] * 2],
        )
        status, said = self.run_demo()
        self.assertEqual((status, said), (0, ""), "the second time nothing is fetched")

    def test_a_later_start_looks_for_no_python_and_asks_dpkg_once(self) -> None:
        self.run_demo()
        for name in ("python3.11", "dpkg-query"):
            text = (self.bin / name).read_text()
            self.program(self.bin / name, text.replace("#!/bin/sh", f'#!/bin/sh\necho {name} >>"$STATE/asked"'))
        (self.state / "asked").write_text("")
        self.assertEqual(self.run_demo(), (0, ""))
        self.assertEqual(self.asked, ["dpkg-query", "python -m firn --demo"])

    def test_an_environment_whose_python_has_gone_is_made_again(self) -> None:
        self.run_demo()
        python = self.clone / ".venv/bin/python"
        python.unlink()
        python.symlink_to(self.folder / "gone")
        status, said = self.run_demo()
        self.assertEqual((status, "Fetching" in said), (0, True))

    def test_a_clone_that_was_moved_is_set_up_again(self) -> None:
        self.run_demo()
        self.clone = self.clone.rename(self.folder / "moved")
        status, said = self.run_demo()
        self.assertEqual((status, "Fetching" in said), (0, True))

    @cases(
        ("packages of Python", BOOKWORM, "Python packages could not be installed. There seems to be no network."),
        ("packages of Debian", [], "could not be installed: libglib2.0-0 .* There seems to be no network."),
    )
    def test_no_network(self, _: str, there: list[str], message: str) -> None:
        self.machine(there, root=True, no_network=True)
        status, said = self.run_demo()
        self.assertEqual(status, 1)
        self.assertRegex(said, message)
        (self.state / "no-network").unlink()
        self.assertEqual(self.run_demo()[0], 0, "it goes on where it stopped")

    @unittest.skipUnless(shutil.which("locale"), "no program locale")
    def test_an_accented_path_in_any_locale(self) -> None:
        env = {**os.environ, "LC_ALL": "C", "PYTHONUTF8": "1", "QT_QPA_PLATFORM": "offscreen"}
        piece = self.clone / "paso número.steps"
        piece.write_text("part A\n1 step\n")
        for words in (
            ["-m", "firn", "read", str(piece)],
            ["-m", "firn", "play", str(piece), "-o", str(self.clone / "ñ.wav")],
        ):
            done = subprocess.run([str(ROOT / ".venv/bin/python"), *words], env=env, capture_output=True, text=True)
            self.assertEqual((done.returncode, done.stderr), (0, ""))
        self.assertTrue((self.clone / "ñ.wav").exists())


if __name__ == "__main__":
    unittest.main()
