"""HTML made of values: what is text is escaped because it is text."""

from html import escape

EMPTY = {"input", "meta", "track"}


class Markup(str):
    """Text that is HTML already."""

    __slots__ = ()


def tag(element: str, /, *inside: str, **attributes: str | bool | int | None) -> Markup:
    """An element. `inside`: text, escaped, or markup as it is. Attributes: `_` stands for `-`, one behind a name that
    Python keeps for itself is dropped; True stands alone, False and None leave one out."""
    said = []
    for key, value in attributes.items():
        shown = key.rstrip("_").replace("_", "-")
        if value is True:
            said.append(f" {shown}")
        elif value is not None and value is not False:
            said.append(f' {shown}="{escape(str(value), quote=True)}"')
    opened = f"<{element}{''.join(said)}>"
    return Markup(opened if element in EMPTY else f"{opened}{joined(*inside)}</{element}>")


def joined(*inside: str) -> Markup:
    """Several, text escaped and markup as it is."""
    return Markup("".join(one if isinstance(one, Markup) else escape(one, quote=False) for one in inside))
