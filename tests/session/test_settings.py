"""Where the user's documents are, against a library that knows it (platformdirs)."""

import os
import unittest
from unittest.mock import patch

import platformdirs

from firn.session.settings import documents_folder
from tests.support import FolderCase, cases


class DocumentsTest(FolderCase):
    @cases(
        ("none", None),
        (
            "usual",
            '# made by xdg-user-dirs-update\nXDG_DESKTOP_DIR="$HOME/Desktop"\nXDG_DOCUMENTS_DIR="$HOME/Documentos"\n',
        ),
        ("elsewhere", 'XDG_DOCUMENTS_DIR="/srv/class"\n'),
        ("with an accent and a space", 'XDG_DOCUMENTS_DIR="$HOME/Mis cosas/Años"\n'),
        ("spaces around", '  XDG_DOCUMENTS_DIR  =  "$HOME/Papers"  \n'),
        ("put out", '#XDG_DOCUMENTS_DIR="$HOME/Old"\n'),
        ("the last of two", 'XDG_DOCUMENTS_DIR="$HOME/One"\nXDG_DOCUMENTS_DIR="$HOME/Two"\n'),
        ("the home folder itself", 'XDG_DOCUMENTS_DIR="$HOME/"\n'),
    )
    def test_as_her_user_dirs_say(self, name: str, text: str | None) -> None:
        config = self.folder / name
        config.mkdir()
        if text is not None:
            (config / "user-dirs.dirs").write_text(text, "utf-8")
        with patch.dict(os.environ, {"XDG_CONFIG_HOME": str(config), "HOME": str(self.folder)}):
            os.environ.pop("XDG_DOCUMENTS_DIR", None)
            known = platformdirs.user_documents_dir()
            if text is not None and text.count("XDG_DOCUMENTS_DIR") > 1:
                # The library gives up where a key stands twice; a shell, for which it is written, takes the last.
                known = str(self.folder / "Two")
            self.assertEqual(str(documents_folder()), known.rstrip("/"))

    @cases(
        ("damaged", b"\xff\xfe XDG_DOCUMENTS_DIR"),
        ("not from the root", b'XDG_DOCUMENTS_DIR="Documents/mine"\n'),
        ("open quotes", b'XDG_DOCUMENTS_DIR="$HOME/Doc\n'),
        ("long", b"#" * 200_000),
    )
    def test_what_cannot_be_used_is_the_usual_folder(self, name: str, data: bytes) -> None:
        config = self.folder / name
        config.mkdir()
        (config / "user-dirs.dirs").write_bytes(data)
        with patch.dict(os.environ, {"XDG_CONFIG_HOME": str(config), "HOME": str(self.folder)}):
            os.environ.pop("XDG_DOCUMENTS_DIR", None)
            self.assertEqual(documents_folder(), self.folder / "Documents")

    def test_the_environment_first(self) -> None:
        with patch.dict(os.environ, {"XDG_DOCUMENTS_DIR": "/srv/mine"}):
            self.assertEqual(str(documents_folder()), platformdirs.user_documents_dir())


if __name__ == "__main__":
    unittest.main()
