"""Put the made-up sitters on a shelf, with work already begun on each."""

from __future__ import annotations

from importlib.resources import files
from typing import Any

from truesitter.core.paint.tubes.pigments import pigment_library
from truesitter.core.paint.tubes.swatches import PATCHES, Swatches
from truesitter.core.reference.decode import inspect
from truesitter.core.school.library import LAYERED_OIL
from truesitter.core.settings import PaintingSettings
from truesitter.demo.drills import practise
from truesitter.demo.log import LOGS, trials
from truesitter.demo.paintings import SHOTS, shipped
from truesitter.devices.meter import SimulatedMeter
from truesitter.store.rows.clock import now
from truesitter.store.settings.edits import Edit, ListEdit
from truesitter.store.settings.sitters import Repository

SITTERS: tuple[dict[str, Any], ...] = (
    {
        "file": "maren.jpg",
        "name": "Maren Quillby",
        "note": "Pilots the small chain ferry across a tidal river; sits on the one afternoon a week "
        "when the ferry is being greased.",
        "settings": {
            "reference": {
                "canvas_width_mm": 300, "canvas_height_mm": 375, "grid_rows": 4, "grid_columns": 3,
                "measures": [
                    {"name": "head", "start": [0.51, 0.18], "end": [0.545, 0.663]},
                    {"name": "face at the eyes", "start": [0.30, 0.415], "end": [0.665, 0.425]},
                    {"name": "chin to collar", "start": [0.545, 0.663], "end": [0.525, 0.853]},
                ],
                "unit": 0,
            },
            "flesh": {
                "palette": "own",
                "tubes": [
                    "titanium-white", "yellow-ochre", "light-red", "raw-umber", "viridian", "ivory-black",
                ],
            },
            "hair": {
                "spacing_mm": 6,
                "guides": [{"points": [[0.44, 0.19], [0.36, 0.19], [0.28, 0.24], [0.22, 0.32]]}],
            },
            "done": ["ground", "underpainting"],
        },
    },
    {
        "file": "tobias.jpg",
        "name": "Tobias Hallgarth",
        "note": "A retired clockmaker who keeps the village tower clock four minutes fast on purpose.",
        "settings": {
            "reference": {"canvas_width_mm": 400, "canvas_height_mm": 500, "grid_rows": 5, "grid_columns": 4},
            "values": {"mode": "fit", "groups": 4},
            "flesh": {
                "palette": "warm-cool-six",
                "tubes": [
                    "titanium-white", "yellow-ochre", "arylide-yellow", "pyrrole-red", "perm-crimson",
                    "ultramarine-blue", "phthalo-blue",
                ],
            },
            "hair": {
                "spacing_mm": 8,
                "guides": [{"points": [[0.42, 0.21], [0.40, 0.17], [0.40, 0.13]]}],
            },
            "done": ["ground"],
        },
    },
    {
        "file": "ines.jpg",
        "name": "Ines Marovela",
        "note": "A rooftop beekeeper, sitting for a shoulder-and-back study the day after the honey harvest.",
        "settings": {
            "reference": {"canvas_width_mm": 360, "canvas_height_mm": 450, "grid_rows": 5, "grid_columns": 4},
            "regions": {
                "scribbles": [
                    {
                        "region": "skin",
                        "points": [
                            [0.36, 0.28], [0.40, 0.40], [0.36, 0.55], [0.50, 0.56], [0.58, 0.50],
                            [0.58, 0.70], [0.35, 0.80], [0.28, 0.90],
                        ],
                    },
                    {
                        "region": "skin",
                        "points": [[0.68, 0.62], [0.62, 0.80], [0.70, 0.92], [0.90, 0.80], [0.97, 0.82]],
                    },
                    {
                        "region": "hair",
                        "points": [
                            [0.45, 0.24], [0.60, 0.32], [0.62, 0.42], [0.68, 0.25], [0.75, 0.10],
                            [0.85, 0.15],
                        ],
                    },
                    {"region": "garment", "points": [[0.55, 0.985], [0.70, 0.985], [0.97, 0.94]]},
                ],
                "names": [
                    {"name": "forehead", "x": 0.41, "y": 0.32}, {"name": "nose", "x": 0.34, "y": 0.44},
                    {"name": "cheek", "x": 0.44, "y": 0.43}, {"name": "mouth", "x": 0.35, "y": 0.51},
                    {"name": "ear", "x": 0.61, "y": 0.42}, {"name": "neck", "x": 0.58, "y": 0.66},
                    {"name": "left shoulder", "x": 0.30, "y": 0.88}, {"name": "blade", "x": 0.72, "y": 0.82},
                ],
            },
            "flesh": {
                "palette": "own",
                "tubes": [
                    "titanium-white", "yellow-ochre", "burnt-sienna", "perm-crimson",
                    "ultramarine-blue", "raw-umber",
                ],
            },
            "hair": {"spacing_mm": 7, "guides": []},
            "done": ["ground"],
        },
    },
)  # fmt: skip


_TUBES: tuple[tuple[str, str, float | None, bool], ...] = (
    ("Old jar of ochre", "yellow-ochre", 18, True),
    ("Studio white", "titanium-white", 120, True),
    ("Red earth, half a tube", "light-red", 6, True),
    ("Green for shadows", "viridian", 30, False),
    ("Dregs of umber", "raw-umber", 0, False),
)
"""Name, pigment, ml left, and whether its swatches have been read."""


def _seed_rack(repository: Repository) -> None:
    meter = SimulatedMeter(seed=5)
    for name, pigment, amount, read in _TUBES:
        kept = repository.tubes.add(name, pigment, amount)
        if amount == 0:
            repository.tubes.change(kept.tube.key, name, amount, empty=True)
        if read:
            white = pigment_library()[pigment].family == "white"
            patches = ["masstone"] if white else list(PATCHES)
            labs = {patch: meter.read(kept.tube.key, pigment, patch).lab for patch in patches}
            repository.tubes.read({kept.tube.key: Swatches(**labs)}, "colour meter")


def _seed_paintings(repository: Repository, sitter_id: str, file: str) -> None:
    for shot in SHOTS[file]:
        data = shipped(file, shot)
        sha256 = repository.paintings.keep(sitter_id, data, shot.file(file), inspect(data))
        known = PaintingSettings(
            key=sha256[:12], sha256=sha256, name=shot.file(file), taken_at=shot.day, after=shot.after
        )
        rows = ListEdit(add=(known.model_dump(mode="json"),))
        repository.change(sitter_id, "easel", Edit(f"Photograph {known.name}", {}, {"paintings": rows}))


def seed(repository: Repository) -> None:
    """Add the made-up sitters and a rack of tubes, unless there are sitters already."""
    if repository.all():
        return
    _seed_rack(repository)
    for entry in SITTERS:
        data = (files("truesitter.demo") / "sitters" / entry["file"]).read_bytes()
        sitter = repository.add(data, entry["file"], entry["name"], entry["note"])
        for stage, settings in entry["settings"].items():
            if stage == "done":
                for key in settings:
                    repository.facts.add(sitter.id, "pass done", {"school": LAYERED_OIL.key, "pass": key})
            else:
                repository.change(sitter.id, stage, Edit(f"Demo: {stage}", settings))
        _seed_paintings(repository, sitter.id, entry["file"])
        if entry["file"] in LOGS:
            repository.log.take_in(LOGS[entry["file"]](sitter.id, now()))
    repository.log.take_in(trials(now()))
    practise(repository.drills)
