"""Stable data as tables that any spreadsheet opens, or as JSON."""

import csv
import io
import json
from collections.abc import Mapping, Sequence
from typing import Any


def table_text(rows: Sequence[Mapping[str, Any]], columns: Sequence[str] = ()) -> str:
    """Rows as CSV (RFC 4180, with lines that end as Unix ends them); `columns`: which, and in which order, those of
    the first row where none are named. What is not known is left empty."""
    out = io.StringIO()
    names = list(columns or (rows[0] if rows else ()))
    table = csv.DictWriter(out, names, extrasaction="ignore", lineterminator="\n")
    table.writeheader()
    table.writerows(rows)
    return out.getvalue()


def written_data(data: Mapping[str, Any], rows: str, ending: str) -> bytes:
    """Data as a file by its ending: all of it as JSON, or the rows of one of its lists as CSV."""
    if ending == ".json":
        return (json.dumps(data, indent=1, ensure_ascii=False) + "\n").encode("utf-8")
    return table_text(data[rows]).encode("utf-8")
