"""Photographs of the made-up sitters' paintings, at three stages each, taken by the simulated camera.

They are shipped as taken, for taking them means planning and painting first; `scripts/demo_paintings.py`
takes them anew. What was planted in each is written here, so that it can be checked what is found.
"""

from __future__ import annotations

from dataclasses import dataclass
from importlib.resources import files

from truesitter.core.easel.compare.drawing_offsets import features_of
from truesitter.core.stages import Study
from truesitter.devices.camera import Studio, photograph
from truesitter.devices.faults import Fault, plant
from truesitter.formats.pictures.png import encode_jpeg

_LONG_SIDE = 1600
_QUALITY = 86


@dataclass(frozen=True)
class DemoShot:
    """One photograph.

    Attributes
    ----------
    after
        Passes laid by then; None for all.
    day
        When, ISO 8601.
    studio
        Drawn by lot from this.
    faults
        Planted, as on the command line.
    """

    after: int | None
    day: str
    studio: int
    faults: tuple[str, ...]

    def file(self, sitter: str) -> str:
        """Name of the file."""
        return f"{sitter.removesuffix('.jpg')}-{self.day}.jpg"


SHOTS: dict[str, tuple[DemoShot, ...]] = {
    "maren.jpg": (
        DemoShot(12, "2026-11-02", 11, ("hair, upper left=+0.8",)),
        DemoShot(
            23, "2026-11-09", 15, ("left cheek=+1.2", "mouth=shift:2,3", "background, lower right=-0.9")
        ),
        DemoShot(None, "2026-11-16", 24, ("left cheek=+1", "right eye=shift:-3,1", "garment, lower left=-1")),
    ),
    "tobias.jpg": (
        DemoShot(14, "2026-11-04", 31, ()),
        DemoShot(28, "2026-11-12", 33, ("forehead=-1", "background, upper left=+0.8")),
        DemoShot(None, "2026-11-19", 38, ("forehead=-0.8", "hair, upper right=+1", "nose=turn:6")),
    ),
    "ines.jpg": (
        DemoShot(8, "2026-11-05", 41, ()),
        DemoShot(16, "2026-11-13", 43, ("neck=+1",)),
        DemoShot(None, "2026-11-20", 46, ("neck=+0.8", "blade=-1")),
    ),
}


def taken(study: Study, shot: DemoShot) -> bytes:
    """Take one photograph, as a JPEG file."""
    canvas = study.easel.template(shot.after, "plan")
    shape = (canvas.shape[0], canvas.shape[1])
    mm = study.settings.reference.canvas_width_mm / shape[1]
    faults = tuple(Fault.read(f) for f in shot.faults)
    features = features_of(study.sitter.face, shape)
    painted = plant(canvas, faults, study.sitter.areas(), features, mm, shot.studio)
    return encode_jpeg(photograph(painted, Studio.by_lot(shot.studio), _LONG_SIDE).picture, _QUALITY)


def shipped(sitter: str, shot: DemoShot) -> bytes:
    """One photograph as it was taken."""
    return (files("truesitter.demo") / "paintings" / shot.file(sitter)).read_bytes()
