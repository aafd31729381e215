"""What each answer depends on, declared once beside its route."""

from __future__ import annotations

from truesitter.core.study.results import Declaration, Needs
from truesitter.formats.pictures import VIEWS

_ANSWERS: dict[str, Declaration] = {f"pictures/{name}": view.declaration for name, view in VIEWS.items()}


def answers() -> dict[str, Declaration]:
    """The declaration of every answer by its path below a sitter, pictures among them."""
    return _ANSWERS


def declare(path: str, settings: tuple[str, ...], needs: Needs, version: int) -> Declaration:
    """Declare what the answer at a path depends on."""
    _ANSWERS[path] = Declaration(path, settings, needs, version)
    return _ANSWERS[path]
