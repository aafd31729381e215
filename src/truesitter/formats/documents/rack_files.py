"""The tube rack as files: a table (CSV) of what is there, or everything with its swatches (JSON)."""

from __future__ import annotations

import csv
import io
import json
from collections import Counter
from collections.abc import Sequence
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from truesitter.core.paint.tubes.rack import OwnTube, Stock
from truesitter.core.refusal import Refusal
from truesitter.core.settings import SwatchSettings, TubeSettings
from truesitter.formats.documents.cells import plain, safe

RACK_HEADER = ("key", "name", "pigment", "amount_ml", "empty")
LARGEST_RACK = 1_000_000
MOST_TUBES = 500
_YES, _NO = ("yes", "true", "1"), ("no", "false", "0", "")


class RackTube(TubeSettings):
    """One tube with what is left in it."""

    amount_ml: float | None = Field(None, ge=0, le=5000)
    empty: bool = False


class RackFile(BaseModel):
    """A rack as JSON."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)

    format: Literal["true-sitter rack 1"] = "true-sitter rack 1"
    tubes: tuple[RackTube, ...] = Field(max_length=MOST_TUBES)


def tubes_of(stock: Sequence[Stock]) -> tuple[TubeSettings, ...]:
    """The tubes as they are set out in a sitter's settings."""
    return tuple(
        TubeSettings(
            key=s.tube.key,
            name=s.tube.name,
            pigment=s.tube.pigment,
            swatches=SwatchSettings.model_validate(s.tube.swatches, from_attributes=True)
            if s.tube.swatches
            else None,
        )
        for s in stock
    )


def rack_json(stock: Sequence[Stock]) -> str:
    """Everything about the tubes, swatches too."""
    tubes = tuple(
        RackTube(**dict(tube), amount_ml=s.amount_ml, empty=s.empty)
        for tube, s in zip(tubes_of(stock), stock, strict=True)
    )
    return RackFile(tubes=tubes).model_dump_json(indent=1) + "\n"


def rack_csv(stock: Sequence[Stock]) -> str:
    """The tubes as a table, without their swatches."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(RACK_HEADER)
    for s in stock:
        amount = "" if s.amount_ml is None else f"{s.amount_ml:g}"
        writer.writerow([s.tube.key, safe(s.tube.name), s.tube.pigment, amount, "yes" if s.empty else "no"])
    return out.getvalue()


def read_rack(data: bytes) -> tuple[Stock, ...]:
    """A rack from either form, told apart by the first character.

    Raises
    ------
    Refusal
        With a sentence that names the line or the tube; nothing is read in part.
    """
    if len(data) > LARGEST_RACK:
        raise Refusal("the file is larger than 1 MB, which no rack is")
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise Refusal(f"line {data[: error.start].count(10) + 1}: this is not text (UTF-8)") from None
    if not text.strip():
        raise Refusal("the file is empty")
    stock = _read_json(text) if text.lstrip().startswith("{") else _read_csv(text)
    keys = [s.tube.key for s in stock]
    if len(stock) > MOST_TUBES:
        raise Refusal(f"the file holds {len(stock)} tubes; a rack holds {MOST_TUBES} at most")
    twice = next((k for k, n in Counter(keys).items() if n > 1), None)
    if twice:
        raise Refusal(f"the tube “{twice}” is in the file twice")
    return stock


def _read_json(text: str) -> tuple[Stock, ...]:
    try:
        file = RackFile.model_validate(json.loads(text))
    except json.JSONDecodeError as error:
        raise Refusal(f"line {error.lineno}: the file is cut off or not JSON") from None
    except (ValidationError, RecursionError) as error:
        if isinstance(error, RecursionError):
            raise Refusal("the file is nested too deeply") from None
        first = error.errors()[0]
        place = ".".join(str(p) for p in first["loc"])
        raise Refusal(f"{place}: {str(first['msg']).removeprefix('Value error, ')}") from None
    return tuple(Stock(t.tube(), t.amount_ml, t.empty) for t in file.tubes)


def _read_csv(text: str) -> tuple[Stock, ...]:
    reader = csv.reader(io.StringIO(text), strict=True)
    out: list[Stock] = []
    try:
        header = [h.strip().lower() for h in next(reader)]
        missing = [h for h in RACK_HEADER if h not in header]
        if missing:
            raise Refusal(f"line 1: the column “{missing[0]}” is missing")
        for cells in reader:
            if len(out) >= MOST_TUBES:
                raise Refusal(f"line {reader.line_num}: a rack holds {MOST_TUBES} tubes at most")
            if cells:
                out.append(_stock(header, cells, reader.line_num))
    except csv.Error as error:
        raise Refusal(f"line {reader.line_num}: this is no table ({error})") from None
    if not out:
        raise Refusal("there is a heading but no tube")
    return tuple(out)


def _stock(header: list[str], cells: list[str], line: int) -> Stock:
    if len(cells) != len(header):
        raise Refusal(f"line {line}: {len(cells)} cells where the heading has {len(header)}")
    row = {k: v.strip() for k, v in zip(header, cells, strict=True)}
    empty = row["empty"].lower()
    if empty not in (*_YES, *_NO):
        raise Refusal(f"line {line}: “{row['empty'][:20]}” is neither yes nor no")
    try:
        amount = float(row["amount_ml"]) if row["amount_ml"] else None
    except ValueError:
        raise Refusal(f"line {line}: “{row['amount_ml'][:20]}” is no number of millilitres") from None
    if amount is not None and not 0 <= amount <= 5000:
        raise Refusal(f"line {line}: a tube holds between 0 and 5000 ml, not {amount:g}")
    try:
        return Stock(OwnTube(row["key"], plain(row["name"]), row["pigment"]), amount, empty in _YES)
    except Refusal as error:
        raise Refusal(f"line {line}: {error}") from None
