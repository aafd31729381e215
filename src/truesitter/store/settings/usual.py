"""What every new sitter begins with in this studio."""

from __future__ import annotations

from pydantic import TypeAdapter, ValidationError

from truesitter.core.settings import BrushSettings
from truesitter.store.access.studio import StudioDocuments

_KEY = "usual brushes"
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
