"""What all settings have in common."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict


class Settings(BaseModel):
    """Base: unchangeable, and unknown fields are an error."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)
