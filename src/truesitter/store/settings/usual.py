"""What every new sitter begins with in this studio."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter, ValidationError

from truesitter.core.settings import BrushSettings
from truesitter.store.access.studio import StudioDocuments

_KEY, _CANVAS = "usual brushes", "usual canvas"
_BRUSHES = TypeAdapter(tuple[BrushSettings, ...])


class UsualBrushes:
    """The brushes of the studio."""

    def __init__(self, documents: StudioDocuments) -> None:
        self._documents = documents

    def get(self) -> tuple[BrushSettings, ...] | None:
        """What there is; None where nothing was ever kept, or what was cannot be read."""
        kept = self._documents.get(_KEY)
        if kept is None:
            return None
        try:
            return _BRUSHES.validate_python(kept.get("brushes"))
        except ValidationError:
            return None

    def keep(self, brushes: tuple[BrushSettings, ...]) -> None:
        """Let every sitter that is added from now on begin with these."""
        self._documents.put(_KEY, {"brushes": _BRUSHES.dump_python(brushes, mode="json")})


class CanvasSize(BaseModel):
    """A canvas in mm, whichever way it is laid."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    width_mm: float = Field(ge=10, le=5000)
    height_mm: float = Field(ge=10, le=5000)


class UsualCanvas:
    """The canvas of the studio."""

    def __init__(self, documents: StudioDocuments) -> None:
        self._documents = documents

    def get(self) -> CanvasSize | None:
        """What new sitters are framed on; None where each has the proportions of its photograph."""
        try:
            return CanvasSize.model_validate(self._documents.get(_CANVAS))
        except ValidationError:
            return None

    def keep(self, canvas: CanvasSize | None) -> None:
        """Let every sitter that is added from now on be framed on it; None for its photograph's own."""
        self._documents.put(_CANVAS, canvas.model_dump() if canvas else {})
