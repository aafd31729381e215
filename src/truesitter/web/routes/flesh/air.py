"""The studio's air, read from the simulated sensor on its wall."""

from __future__ import annotations

from datetime import datetime

from fastapi import APIRouter
from pydantic import BaseModel

from truesitter.devices.hygrometer import read_air

router = APIRouter(prefix="/api/studio", tags=["passes"])


class AirOut(BaseModel):
    """One reading."""

    temperature: float
    """°C."""
    humidity: float
    """Relative, in per cent."""
    simulated: bool = True
    """No sensor is connected: a made-up one stands in for it."""


@router.get("/air")
def get_air() -> AirOut:
    """How warm and damp it is now."""
    air = read_air(datetime.now())
    return AirOut(temperature=air.temperature, humidity=air.humidity)
