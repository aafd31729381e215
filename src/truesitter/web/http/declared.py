"""What each answer depends on, declared once beside its route."""

from __future__ import annotations

from truesitter.core.graph.results import OWN_PACE, PHOTOGRAPH, Declaration, Needs, declared
from truesitter.core.settings import StudySettings
from truesitter.formats.pictures.views import VIEWS

_ANSWERS: dict[str, Declaration] = {f"pictures/{name}": view.declaration for name, view in VIEWS.items()}


def answers() -> dict[str, Declaration]:
    """The declaration of every answer by its path below a sitter, pictures among them."""
    return _ANSWERS


def asks_for(declaration: Declaration, settings: StudySettings, name: str) -> bool:
    """Whether something declared is made from a result of a name, however far down, under some settings."""
    needs = declaration.needed(settings)
    return name in needs or any(
        asks_for(declared(need), settings, name) for need in needs if need not in (PHOTOGRAPH, OWN_PACE)
    )


def declare(path: str, settings: tuple[str, ...], needs: Needs, version: int) -> Declaration:
    """Declare what the answer at a path depends on."""
    _ANSWERS[path] = Declaration(path, settings, needs, version)
    return _ANSWERS[path]
