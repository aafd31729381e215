"""What all settings have in common."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, ClassVar, Self

from pydantic import BaseModel, ConfigDict, ValidationError

from truesitter.core.refusal import Refusal

Document = dict[str, Any]


class Settings(BaseModel):
    """Base: unchangeable, and unknown fields are an error.

    Attributes
    ----------
    VERSION
        Of the document's form; raised whenever a field is renamed, removed or means something else.
    UPGRADES
        For each older version what turns its document into that of the next.
    ROWS
        Fields that hold lists which grow stroke by stroke: they are kept row by row.
    """

    model_config = ConfigDict(
        frozen=True, extra="forbid", allow_inf_nan=False, json_schema_serialization_defaults_required=True
    )

    VERSION: ClassVar[int] = 1
    UPGRADES: ClassVar[dict[int, Callable[[Document], Document]]] = {}
    ROWS: ClassVar[tuple[str, ...]] = ()

    @classmethod
    def upgraded(cls, document: Document, version: int) -> Document:
        """A document of an older version in the form of this one."""
        if version > cls.VERSION:
            raise Refusal("it was written by a newer version of True Sitter")
        for step in range(version, cls.VERSION):
            document = cls.UPGRADES[step](document)
        return document

    @classmethod
    def read(cls, document: Document, version: int) -> Self:
        """Settings from a document of this or an older version.

        Raises
        ------
        Refusal
            Saying what is wrong with it.
        """
        try:
            return cls.model_validate(cls.upgraded(document, version))
        except ValidationError as error:
            raise Refusal(first_fault(error)) from error


def first_fault(error: ValidationError) -> str:
    """The first thing wrong, in words: where, and what."""
    first = error.errors()[0]
    place = ".".join(str(p) for p in first["loc"])
    message = str(first["msg"]).removeprefix("Value error, ")
    return f"{place}: {message}" if place else message
