"""Qt's enumerations, made in a quarter of the time.

Qt for Python makes some 190 of them (1,300 members) for what the window uses at the start, each through `enum`'s
functional form, which builds every member twice: an eighth of the whole start. Made here, they are the same classes.
"""

import enum
import sys
from collections.abc import Sequence
from typing import Any

MADE_HERE = (enum.Enum, enum.Flag, enum.IntEnum, enum.IntFlag)
_TAKEN = {name for base in MADE_HERE for one in base.__mro__ for name in vars(one)} | {"mro", ""}
"""Names that an enumeration has already: a member called so is left to `enum`."""

_OPERATORS = ("__or__", "__and__", "__xor__", "__ror__", "__rand__", "__rxor__", "__invert__")
_SHOWN = ("__repr__", "__str__", "__format__", "__reduce_ex__")
_SINGLES = hasattr(enum.Flag, "_singles_mask_")
"""Whether bits that have names of their own are kept apart, as later Pythons do: not the 3.11.2 of Debian 12."""
_usual = enum.EnumType._create_  # type: ignore[attr-defined]
_set = type.__setattr__


def _is_bit(value: int) -> bool:
    return value > 0 and not value & (value - 1)


def _plain(base: Any, names: Any, mixin: type | None) -> bool:
    """Whether `names` are pairs of a name and a number, none of which means anything to `enum` itself."""
    return (
        mixin is None
        and base in MADE_HERE
        and isinstance(names, list)
        and all(
            type(pair) is tuple and type(pair[1]) is int and not pair[0].startswith("_") and pair[0] not in _TAKEN
            for pair in names
        )
    )


def _flag_body(pairs: Sequence[tuple[str, int]], boundary: enum.FlagBoundary) -> dict[str, Any]:
    mask = single = 0
    for _, value in pairs:
        mask |= value
        if _is_bit(value):
            single |= value
    return {
        "_boundary_": boundary,
        **({"_flag_mask_": mask, "_singles_mask_": single} if _SINGLES else {"_flag_mask_": single}),
        "_all_bits_": 2 ** mask.bit_length() - 1,
        "_inverted_": None,
        **{name: getattr(enum.Flag, name) for name in _OPERATORS},
    }


def create(
    base: Any,
    class_name: str,
    names: Any,
    *,
    module: str | None = None,
    qualname: str | None = None,
    type: type | None = None,
    start: int = 1,
    boundary: enum.FlagBoundary | None = None,
) -> Any:
    """An enumeration as `enum` makes it by its functional form; what is no list of plain numbers, it makes itself.

    Its parameters are called as those of `enum` are: from Python 3.12 on they are given by name.
    """
    if module is None:
        # As `enum` does: where its call came from.
        module = sys._getframe(2).f_globals.get("__name__")
    if module is None or not _plain(base, names, type):
        return _usual(
            base, class_name, names, module=module, qualname=qualname, type=type, start=start, boundary=boundary
        )
    flag = issubclass(base, enum.Flag)
    kind = base._member_type_
    order: list[str] = []
    members: dict[str, Any] = {}
    by_value: dict[int, Any] = {}
    body = {
        "_generate_next_value_": base._generate_next_value_,
        "__module__": module,
        "_new_member_": kind.__new__,
        "_use_args_": base._use_args_,
        "_member_names_": order,
        "_member_map_": members,
        "_value2member_map_": by_value,
        "_unhashable_values_": [],
        "_member_type_": kind,
        "_value_repr_": base._value_repr_,
        **({"_unhashable_values_map_": {}} if sys.version_info >= (3, 13) else {}),
        **({} if qualname is None else {"__qualname__": qualname}),
        **(_flag_body(names, boundary or base._boundary_) if flag else {}),
    }
    made: Any = enum.EnumType.__new__(enum.EnumType, class_name, (base,), body, boundary=boundary, _simple=True)  # type: ignore[arg-type]
    for shown in _SHOWN:
        if getattr(made, shown) in (getattr(kind, shown), getattr(object, shown)):
            _set(made, shown, getattr(base, shown))
    _set(made, "__new__", enum.Enum.__new__)
    new = kind.__new__
    for label, value in names:
        member = by_value.get(value)
        if member is None:
            member = new(made, value) if base._use_args_ else new(made)
            member.__dict__.update(_value_=value, _name_=label, __objclass__=made, _sort_order_=len(order))
            by_value[value] = member
            if not flag or _is_bit(value):
                order.append(label)
        members[label] = member
        _set(made, label, member)
    if flag and (values := [by_value[members[label]._value_]._value_ for label in order]) != sorted(values):
        _set(made, "_iter_member_", made._iter_member_by_def_)
    return made


def install() -> None:
    """From now on enumerations are made here."""
    enum.EnumType._create_ = create  # type: ignore[attr-defined]
