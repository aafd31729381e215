"""Readings of swatches as text: a plain table (CSV), or CGATS text as colour meters write it (ISO 28178)."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from truesitter.core.colour.spaces import Lab, as_lab
from truesitter.core.colour.spectrum import WAVELENGTHS, reflectance_to_lab
from truesitter.core.paint.tubes.swatches import PATCHES, Swatches
from truesitter.core.refusal import Refusal

LARGEST_TEXT = 1_000_000
CSV_HEADER = ("tube", "patch", "L", "a", "b")
_TOKEN = re.compile(r'"[^"]*"|\S+')
_SPECTRAL = re.compile(r"^(?:SPECTRAL_)?(?:NM)?_?(\d{3})(?:NM)?$")
_LAB = ("LAB_L", "LAB_A", "LAB_B")
_MOST_REFLECTED = 1.5
"""No surface reflects more of the light than this; a larger number is a percentage."""


@dataclass(frozen=True)
class PatchLab:
    """One reading: tube key, patch, L*a*b* (D65, 2°), and the line of the file it stood on."""

    tube: str
    patch: str
    lab: Lab
    line: int = 0


class UnusableReadings(Refusal):
    """A file of readings that cannot be used; the sentence names the line."""

    def __init__(self, line: int, sentence: str) -> None:
        super().__init__(f"Line {line}: {sentence}.")
        self.line = line


def read_readings(data: bytes) -> tuple[PatchLab, ...]:
    """Readings of a CSV table or a CGATS text, told apart by their first line.

    Raises
    ------
    UnusableReadings
        For anything that is not a whole and sensible file; nothing is read in part.
    """
    if not data.strip():
        raise UnusableReadings(1, "the file is empty")
    if len(data) > LARGEST_TEXT:
        raise UnusableReadings(1, "the file is larger than 1 MB, which no list of swatches is")
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        line = data[: error.start].count(b"\n") + 1
        raise UnusableReadings(line, "this is not text (UTF-8)") from None
    # Not splitlines: it breaks at characters at which no editor counts a line.
    lines = text.replace("\r\n", "\n").replace("\r", "\n").rstrip("\n").split("\n")
    first = next((i for i, line in enumerate(lines) if line.strip()), None)
    if first is None:
        raise UnusableReadings(1, "the file is empty")
    found = _read_csv(lines, first) if _is_table(lines[first]) else _read_cgats(lines)
    seen: dict[tuple[str, str], int] = {}
    for reading in found:
        earlier = seen.setdefault((reading.tube, reading.patch), reading.line)
        if earlier != reading.line:
            raise UnusableReadings(
                reading.line, f"{reading.patch} of {reading.tube} was read already on line {earlier}"
            )
    return found


def swatches_by_tube(
    readings: tuple[PatchLab, ...], rack: Mapping[str, Swatches | None]
) -> dict[str, Swatches]:
    """Readings of a file gathered by tube; patches not in it are kept from what is known.

    Parameters
    ----------
    rack
        Every tube on the rack by its key, with the swatches in force.

    Raises
    ------
    UnusableReadings
        For a tube that is not on the rack, has no masstone or cannot look like that.
    """
    found: dict[str, dict[str, Lab]] = {}
    lines: dict[str, int] = {}
    for r in readings:
        if r.tube not in rack:
            raise UnusableReadings(r.line, f"there is no tube “{r.tube[:60]}” on the rack")
        known = rack[r.tube]
        lines.setdefault(r.tube, r.line)
        found.setdefault(r.tube, known.given() if known else {})[r.patch] = r.lab
    whole = {}
    for key, patches in found.items():
        if "masstone" not in patches:
            raise UnusableReadings(lines[key], f"{key} has no masstone, neither here nor from before")
        try:
            whole[key] = Swatches(**patches)
        except Refusal as error:
            raise UnusableReadings(lines[key], str(error)) from None
    return whole


def _is_table(line: str) -> bool:
    return "," in line or ";" in line


def _read_csv(lines: list[str], first: int) -> tuple[PatchLab, ...]:
    delimiter = "," if "," in lines[first] else ";"
    header = tuple(h.lower() for h in _cells(lines[first], delimiter, first + 1))
    missing = [h for h in CSV_HEADER if h.lower() not in header]
    if missing:
        raise UnusableReadings(
            first + 1, f"the column “{missing[0]}” is missing; the columns are {', '.join(CSV_HEADER)}"
        )
    out = []
    for number, line in enumerate(lines[first + 1 :], start=first + 2):
        if not line.strip():
            continue
        cells = _cells(line, delimiter, number)
        if len(cells) != len(header):
            raise UnusableReadings(number, f"{len(cells)} cells where the heading has {len(header)}")
        row = dict(zip(header, cells, strict=True))
        lab = _lab([_number(row[c], number) for c in ("l", "a", "b")], number)
        out.append(PatchLab(row["tube"], _patch(row["patch"], number), lab, number))
    if not out:
        raise UnusableReadings(len(lines), "there is a heading but no reading")
    return tuple(out)


def _cells(line: str, delimiter: str, number: int) -> list[str]:
    try:
        return [cell.strip() for cell in next(csv.reader([line], delimiter=delimiter, strict=True))]
    except csv.Error as error:
        raise UnusableReadings(number, f"this is no line of a table ({error})") from None


def _read_cgats(lines: list[str]) -> tuple[PatchLab, ...]:
    fields: list[str] = []
    rows: list[tuple[int, list[str]]] = []
    promised: tuple[int, int] | None = None
    part = ""
    for number, line in enumerate(lines, start=1):
        tokens = [t.strip('"') for t in _TOKEN.findall(line.split("#", 1)[0] if part != "data" else line)]
        if not tokens:
            continue
        word = tokens[0].upper()
        if word in ("BEGIN_DATA_FORMAT", "BEGIN_DATA"):
            if word == "BEGIN_DATA" and not fields:
                raise UnusableReadings(number, "data begin before their format is told")
            part = "data" if word == "BEGIN_DATA" else "format"
        elif word in ("END_DATA_FORMAT", "END_DATA"):
            part = ""
            if word == "END_DATA":
                break
            _check_fields(fields, number)
        elif part == "format":
            fields += [t.upper() for t in tokens]
        elif part == "data":
            rows.append((number, tokens))
        elif word == "NUMBER_OF_SETS":
            promised = (int(_number(tokens[1] if len(tokens) > 1 else "", number)), number)
    else:
        what = {"data": "END_DATA is missing: the file is cut off", "format": "END_DATA_FORMAT is missing"}
        raise UnusableReadings(
            len(lines), what.get(part, "this is neither a table nor CGATS text: no BEGIN_DATA")
        )
    if promised and promised[0] != len(rows):
        raise UnusableReadings(promised[1], f"{promised[0]} readings are promised but {len(rows)} are there")
    if not rows:
        raise UnusableReadings(len(lines), "there is no reading between BEGIN_DATA and END_DATA")
    scale = 1.0 if set(_LAB) <= set(fields) else _spectral_scale(fields, rows)
    return tuple(_cgats_row(fields, tokens, number, scale) for number, tokens in rows)


def _check_fields(fields: list[str], line: int) -> None:
    if "SAMPLE_NAME" not in fields:
        raise UnusableReadings(line, "the field SAMPLE_NAME is missing; it holds the tube and the patch")
    if not set(_LAB) <= set(fields) and len(_bands(fields)) < len(WAVELENGTHS):
        raise UnusableReadings(line, "neither LAB_L, LAB_A, LAB_B nor all of 400–700 nm by 10 nm are there")


def _bands(fields: list[str]) -> dict[int, int]:
    """Place of each wavelength's field."""
    matches = ((_SPECTRAL.match(f), i) for i, f in enumerate(fields))
    found = {int(m.group(1)): i for m, i in matches if m}
    return {int(w): found[int(w)] for w in WAVELENGTHS if int(w) in found}


def _spectral_scale(fields: list[str], rows: list[tuple[int, list[str]]]) -> float:
    """What turns the spectra of a whole file into parts of the light: per cent, when any band says so.

    Decided by the file and not by the row: the black of a file in per cent lies below 1 in every band.
    """
    places = list(_bands(fields).values())
    numbers = (
        _number(tokens[i], line) for line, tokens in rows if len(tokens) == len(fields) for i in places
    )
    return 0.01 if max(numbers, default=0.0) > _MOST_REFLECTED else 1.0


def _cgats_row(fields: list[str], tokens: list[str], line: int, scale: float) -> PatchLab:
    if len(tokens) != len(fields):
        raise UnusableReadings(line, f"{len(tokens)} values where the format has {len(fields)}")
    name = tokens[fields.index("SAMPLE_NAME")].split()
    if len(name) != 2:
        raise UnusableReadings(line, "the sample's name is not a tube and a patch, as “my-ochre masstone”")
    if set(_LAB) <= set(fields):
        lab = [_number(tokens[fields.index(f)], line) for f in _LAB]
    else:
        spectrum = [_number(tokens[i], line) * scale for i in _bands(fields).values()]
        lab = list(as_lab(reflectance_to_lab(np.clip(spectrum, 0, 1))))
    return PatchLab(name[0], _patch(name[1], line), _lab(lab, line), line)


def _number(text: str, line: int) -> float:
    try:
        value = float(text)
    except ValueError:
        raise UnusableReadings(line, f"“{text[:40]}” is not a number") from None
    if not np.isfinite(value):
        raise UnusableReadings(line, f"“{text[:40]}” is not a number that can be used")
    return value


def _patch(text: str, line: int) -> str:
    patch = text.lower().replace("-", "_")
    if patch not in PATCHES:
        raise UnusableReadings(line, f"there is no patch “{text[:40]}”; there are {', '.join(PATCHES)}")
    return patch


def _lab(numbers: list[float], line: int) -> Lab:
    lightness, a, b = numbers
    if not 0 < lightness <= 100 or max(abs(a), abs(b)) > 128:
        raise UnusableReadings(line, f"no paint looks like L* {lightness:g}, a* {a:g}, b* {b:g}")
    return (lightness, a, b)


def readings_csv(readings: tuple[PatchLab, ...]) -> str:
    """Readings as a table that `read_readings` reads."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(CSV_HEADER)
    writer.writerows([r.tube, r.patch, *(f"{v:.3f}" for v in r.lab)] for r in readings)
    return out.getvalue()


def readings_cgats(readings: tuple[PatchLab, ...]) -> str:
    """Readings as CGATS text (ISO 28178 layout) that `read_readings` reads."""
    rows = [
        f'{i}\t"{r.tube} {r.patch}"\t' + "\t".join(f"{v:.3f}" for v in r.lab)
        for i, r in enumerate(readings, start=1)
    ]
    head = [
        "CGATS.17", 'ORIGINATOR\t"True Sitter"', 'DESCRIPTOR\t"Swatches of paint, L*a*b* D65 2 degree"', "",
        "NUMBER_OF_FIELDS\t5", "BEGIN_DATA_FORMAT", "SAMPLE_ID\tSAMPLE_NAME\tLAB_L\tLAB_A\tLAB_B",
        "END_DATA_FORMAT", "", f"NUMBER_OF_SETS\t{len(rows)}", "BEGIN_DATA",
    ]  # fmt: skip
    return "\n".join([*head, *rows, "END_DATA", ""])
