"""What a user can act on; anything else that is raised is a bug."""


class FirnError(Exception):
    """One clear sentence for the user, with the place it speaks of and a hint, where there are any."""

    def __init__(self, message: str, *, where: str = "", hint: str = "") -> None:
        super().__init__(message)
        self.message, self.where, self.hint = message, where, hint

    def __str__(self) -> str:
        return " ".join(part for part in (self.message, self.hint) if part)


class FileFormatError(FirnError):
    """A file that cannot be read as what it was taken for."""


class WriteError(FirnError):
    """A file that cannot be written, or not there."""


class StoreError(FirnError):
    """A workbook that cannot be opened or written."""


class ReadOnlyError(StoreError):
    """The workbook can be read, not changed."""


class DeviceError(FirnError):
    """A sound device that does not answer."""


class Cancelled(FirnError):
    """The user stopped a long task."""

    def __init__(self) -> None:
        super().__init__("Stopped.")
