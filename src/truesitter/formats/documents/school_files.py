"""Schools as files: JSON that can be read, edited and passed on; a bad one is refused with its line."""

from __future__ import annotations

import json
from typing import Any

from pydantic import ValidationError

from truesitter.core.refusal import Refusal
from truesitter.core.school.school_document import School

MOST_BYTES = 1_000_000
"""No school is larger."""

_DEEPEST = 12
"""No school is nested deeper."""


def school_json(school: School) -> bytes:
    """A school as a file."""
    return (school.model_dump_json(indent=1) + "\n").encode()


def school_schema() -> dict[str, Any]:
    """JSON schema of such files (draft 2020-12)."""
    return {
        **School.model_json_schema(),
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "A school of painting",
    }


def read_school(data: bytes) -> School:
    """A school from a file.

    Raises
    ------
    Refusal
        Naming the line, and what is wrong there.
    """
    if len(data) > MOST_BYTES:
        raise Refusal("this file is too large for a school")
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise Refusal("this is no text file: a school is a JSON file in UTF-8") from None
    try:
        document = json.loads(text)
    except json.JSONDecodeError as error:
        raise Refusal(f"line {error.lineno} is not JSON: {error.msg.lower()}") from None
    except RecursionError:
        raise Refusal("this file is nested too deep for a school") from None
    if not isinstance(document, dict):
        raise Refusal("line 1: a school is a JSON object with a key, a name and passes")
    try:
        return School.model_validate(document)
    except ValidationError as error:
        first = error.errors()[0]
        message = str(first["msg"]).removeprefix("Value error, ")
        place = tuple(first["loc"])
        raise Refusal(
            f"line {line_of(text, place)}: {_spoken(place)}{message[0].lower()}{message[1:]}"
        ) from None


def _spoken(place: tuple[int | str, ...]) -> str:
    """A place in a document, as ``pass 3, film_mm: ``."""
    words: list[str] = []
    for part in place:
        if isinstance(part, int):
            words[-1:] = [
                f"pass {part + 1}" if words[-1:] == ["passes"] else f"{' '.join(words[-1:])} {part + 1}"
            ]
        else:
            words.append(part)
    return f"{', '.join(words)}: " if words else ""


def line_of(text: str, place: tuple[int | str, ...]) -> int:
    """Line on which a place of a JSON text begins, or the innermost part of it that is there.

    Parameters
    ----------
    text
        Valid JSON.
    place
        Keys and numbers from the outside in.
    """
    return _Lines(text).find(place)


class _Lines:
    """Walks through a JSON text that is known to be sound."""

    def __init__(self, text: str) -> None:
        self.text, self.at, self.decoder = text, 0, json.JSONDecoder()

    def find(self, place: tuple[int | str, ...]) -> int:
        """Go down as far as the place is there."""
        self._skip()
        for part in place[:_DEEPEST]:
            here = self.at
            if not self._enter(part):
                self.at = here
                break
        return self.text.count("\n", 0, self.at) + 1

    def _skip(self, more: str = "") -> None:
        while self.at < len(self.text) and self.text[self.at] in " \t\r\n" + more:
            self.at += 1

    def _value(self) -> Any:
        self._skip()
        value, self.at = self.decoder.raw_decode(self.text, self.at)
        return value

    def _enter(self, part: int | str) -> bool:
        """Go to a member of the object, or an item of the list, that begins here; False without one."""
        opening = self.text[self.at : self.at + 1]
        if opening not in ("{", "[") or isinstance(part, str) != (opening == "{"):
            return False
        self.at += 1
        number = 0
        while True:
            self._skip(",")
            if self.text[self.at : self.at + 1] in ("}", "]", ""):
                return False
            if opening == "{":
                key_at = self.at
                key = self._value()
                self._skip(":")
                if key == part:
                    inside = self.at
                    self.at = inside if self.text[inside] in "{[" else key_at
                    return True
            elif number == part:
                return True
            self._value()
            number += 1
