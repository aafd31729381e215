"""Photographs as people bring them: altered by lot, and each put through the whole program.

Made sitters are cropped, turned, tinted, spoiled, shrunk, saved in other ways; some pictures hold nobody.
For each a plan is written with all its files, another school is planned, and a canvas under way is
photographed by the simulated camera and compared. What cannot be done has to be refused in a sentence.
"""

from __future__ import annotations

import hashlib
import io
import json
import time
import traceback
import warnings
from collections.abc import Callable, Iterator
from importlib.resources import files
from typing import Any

import cv2
import numpy as np
from PIL import Image

from truesitter.core.reference.decode import inspect
from truesitter.core.refusal import Refusal
from truesitter.core.school.library import SCHOOLS
from truesitter.core.settings import PaintingSettings, ReferenceSettings, StudySettings
from truesitter.core.stages import Study
from truesitter.core.usecases.framing_advice import framed_faces
from truesitter.core.usecases.photograph_condition import condition_of
from truesitter.devices.camera import Studio, photograph
from truesitter.formats.folder import plan_files
from truesitter.formats.words.condition_words import condition_sentences

LONG_SIDE = 900
"""Pixels: altered pictures are no larger, so that many can be tried."""
MOST_PARTS = 200
"""A recipe of more parts, told by way of a weakened tube where it has one, cannot be counted out [try]."""
THINNEST_MM = 0.001
"""A film under a micrometre is none."""
SLOW, LEAST_SLOW = 3.0, 20.0
"""Times the usual, and seconds at least, from which on a picture takes too long."""

RECENT = 20
"""So many pictures say how long one usually takes."""

Picture = np.ndarray[Any, np.dtype[np.uint8]]
Rng = np.random.Generator
NAMES = ("maren", "tobias", "ines")


def _sitter(rng: Rng) -> Picture:
    data = (files("truesitter.demo") / "sitters" / f"{rng.choice(NAMES)}.jpg").read_bytes()
    picture = np.asarray(Image.open(io.BytesIO(data)).convert("RGB"))
    scale = LONG_SIDE / max(picture.shape[:2])
    return cv2.resize(picture, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)


def _crop(picture: Picture, rng: Rng) -> Picture:
    height, width = picture.shape[:2]
    tall, wide = (max(48, round(n * rng.uniform(0.25, 0.95))) for n in (height, width))
    top, left = int(rng.integers(0, max(1, height - tall))), int(rng.integers(0, max(1, width - wide)))
    return np.ascontiguousarray(picture[top : top + tall, left : left + wide])


def _gains(picture: Picture, gains: Any) -> Picture:
    return np.clip(picture * np.asarray(gains), 0, 255).round().astype(np.uint8)


def _grey(picture: Picture) -> Picture:
    return cv2.cvtColor(cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY), cv2.COLOR_GRAY2RGB)


def _small(picture: Picture, rng: Rng) -> Picture:
    scale = float(rng.uniform(70, 200)) / max(picture.shape[:2])
    size = tuple(max(16, round(n * scale)) for n in picture.shape[1::-1])
    return cv2.resize(picture, size, interpolation=cv2.INTER_AREA)


def _strip(picture: Picture, rng: Rng) -> Picture:
    height, width = picture.shape[:2]
    if rng.random() < 0.5:
        at = int(rng.integers(0, height - height // 6))
        return np.ascontiguousarray(picture[at : at + height // 6])
    at = int(rng.integers(0, width - width // 5))
    return np.ascontiguousarray(picture[:, at : at + width // 5])


def _two(picture: Picture, rng: Rng) -> Picture:
    other = cv2.resize(_sitter(rng), picture.shape[1::-1], interpolation=cv2.INTER_AREA)
    return np.hstack([picture, other])


def _nobody(picture: Picture, rng: Rng) -> Picture:
    height, width = picture.shape[:2]
    return np.ascontiguousarray(picture[: height // 4, : width // 3])


def _drawing(picture: Picture, rng: Rng) -> Picture:
    lines = cv2.Canny(cv2.GaussianBlur(picture, (0, 0), 1.5), 30, 80)
    return np.repeat(255 - lines[..., None], 3, axis=2)


def _uniform(picture: Picture, rng: Rng) -> Picture:
    return np.full_like(picture, rng.integers(0, 256, 3))


def _framed(picture: Picture, rng: Rng) -> Picture:
    return cv2.copyMakeBorder(picture, 0, 0, *rng.integers(0, 200, 2).tolist(), cv2.BORDER_CONSTANT)


ALTERED: dict[str, Callable[[Picture, Rng], Picture]] = {
    "cropped": _crop,
    "mirrored": lambda p, rng: np.ascontiguousarray(p[:, ::-1]),
    "turned": lambda p, rng: np.ascontiguousarray(np.rot90(p, int(rng.integers(1, 4)))),
    "grey": lambda p, rng: _grey(p),
    "sepia": lambda p, rng: _gains(_grey(p), (1.05, 0.9, 0.65)),
    "cast": lambda p, rng: _gains(p, rng.uniform(0.5, 1.4, 3)),
    "exposed": lambda p, rng: _gains(p, 2 ** float(rng.uniform(-2, 2))),
    "noisy": lambda p, rng: np.clip(p + rng.normal(0, rng.uniform(3, 35), p.shape), 0, 255).astype(np.uint8),
    "flat": lambda p, rng: np.clip(128 + (p.astype(float) - 128) * 0.2, 0, 255).astype(np.uint8),
    "small": _small,
    "strip": _strip,
    "two": _two,
    "nobody": _nobody,
    "drawing": _drawing,
    "uniform": _uniform,
    "bordered": _framed,
}
"""What is done to a picture; up to three of them one after the other."""


def _saved(picture: Picture, rng: Rng) -> tuple[str, bytes]:
    image, buffer = Image.fromarray(picture), io.BytesIO()
    how = str(rng.choice(["jpeg", "jpeg 20", "png", "alpha", "palette", "cmyk", "16 bit", "exif", "grey"]))
    if how == "16 bit":
        return how, cv2.imencode(".png", picture[..., ::-1].astype(np.uint16) * 257)[1].tobytes()
    if how in ("png", "alpha", "palette"):
        if how == "alpha":
            image.putalpha(Image.fromarray((picture[..., 0] // 2 + 127).astype(np.uint8)))
        if how == "palette":
            image = image.quantize(64)
        image.save(buffer, "PNG")
    elif how == "exif":
        exif = Image.Exif()
        exif[0x0112] = int(rng.integers(2, 9))
        image.save(buffer, "JPEG", quality=90, exif=exif)
    else:
        image = image.convert({"cmyk": "CMYK", "grey": "L"}.get(how, "RGB"))
        image.save(buffer, "JPEG", quality=20 if how == "jpeg 20" else 90)
    return how, buffer.getvalue()


def variant(seed: int) -> tuple[str, bytes]:
    """A photograph drawn by lot: what was done to it, and its bytes."""
    rng = np.random.default_rng(seed)
    picture, done = _sitter(rng), []
    for name in rng.choice(list(ALTERED), int(rng.integers(1, 4)), replace=False):
        picture = ALTERED[str(name)](picture, rng)
        done.append(str(name))
        if min(picture.shape[:2]) < 40:
            break
    how, data = _saved(picture, rng)
    return f"{', '.join(done)}, {how}, {picture.shape[1]} x {picture.shape[0]}", data


def _settings(data: bytes, rng: Rng) -> Iterator[StudySettings]:
    info = inspect(data)
    reference = ReferenceSettings.of_photograph(info.width, info.height).model_dump()
    for key in rng.choice(sorted(SCHOOLS), 2, replace=False):
        chosen: dict[str, Any] = {"reference": reference, "passes": {"school": str(key)}}
        media = SCHOOLS[str(key)].media
        chosen["flesh"] = {"medium": media[int(rng.integers(len(media)))]}
        yield StudySettings.model_validate(chosen)


def oddities(found: Any, where: str = "") -> list[str]:
    """What no plan may hold: numbers that are none, places outside it, films of nothing, countless parts."""
    if isinstance(found, dict):
        said = []
        for key, value in found.items():
            here = f"{where}.{key}"
            if key in ("x", "y") and isinstance(value, int | float) and not -0.001 <= value <= 1.001:
                said.append(f"{here} = {value}: outside the picture")
            if key.startswith("film") and isinstance(value, float) and 0 < value < THINNEST_MM:
                said.append(f"{here} = {value} mm: no film")
            if key == "parts" and isinstance(value, dict):
                told = (found.get("heap") or found.get("weakened") or {}).get("parts", value)
                if sum(told.values()) > MOST_PARTS:
                    said.append(f"{here} = {sum(told.values())} parts")
            said += oddities(value, here)
        return said
    if isinstance(found, list):
        return [o for n, value in enumerate(found) for o in oddities(value, f"{where}[{n}]")]
    if isinstance(found, float) and not np.isfinite(found):
        return [f"{where} = {found}"]
    return []


def _through(data: bytes, rng: Rng) -> list[str]:
    """One photograph through the whole program; what was wrong."""
    wrong: list[str] = []
    for number, settings in enumerate(_settings(data, rng)):
        shots: dict[str, bytes] = {}
        study = Study.of_bytes(data, settings, paintings=shots.__getitem__)
        if number == 0:
            framed_faces(study)
            condition_sentences(condition_of(study))
        try:
            if number == 0:
                _, written = plan_files(study, "siege")
                wrong += oddities(json.loads(written["plan.json"]))
            canvas = study.passes.painted().picture(max(1, study.easel.pass_count() // 2))
        except Refusal as refusal:
            wrong += [] if len(refusal.sentence) > 20 else [f"refused by “{refusal.sentence}”"]
            continue
        if number == 0:
            taken = photograph(canvas, Studio.by_lot(int(rng.integers(1000))), 1200)
            shot = cv2.imencode(".jpg", taken.picture[..., ::-1])[1].tobytes()
            sha256 = hashlib.sha256(shot).hexdigest()
            shots[sha256] = shot
            one = {"key": sha256[:12], "sha256": sha256, "name": "x.jpg", "taken_at": "2026-11-30"}
            try:
                study.easel.compared(PaintingSettings.model_validate({**one, "after": None}))
            except Refusal as refusal:
                wrong += [] if len(refusal.sentence) > 20 else [f"refused by “{refusal.sentence}”"]
    return wrong


def trial(seed: int) -> tuple[str, list[str], float]:
    """One variant: what it is, what was wrong with it, and the seconds of processor it took."""
    name, data = variant(seed)
    began = time.process_time()
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", RuntimeWarning)
            wrong = _through(data, np.random.default_rng(seed + 1))
    except Refusal as refusal:
        wrong = [] if len(refusal.sentence) > 20 else [f"refused by “{refusal.sentence}”"]
    except Exception:
        wrong = [traceback.format_exc(limit=-4)]
    return name, wrong, time.process_time() - began


def pictures(count: int = 60, seed: int = 1) -> dict[str, object]:
    """So many variants of a seed; each that goes wrong is printed as it is met."""
    troubles, times = 0, []
    for number in range(count):
        name, wrong, seconds = trial(seed * 100_000 + number)
        times.append(seconds)
        # Of the last ones that hold somebody: nobody is quick, and the speed of a machine changes in an hour.
        usual = float(np.quantile(times[-RECENT:], 0.75))
        if number > 10 and seconds > max(LEAST_SLOW, SLOW * usual):
            wrong.append(f"took {seconds:.0f} s, usual {usual:.0f}")
        troubles += bool(wrong)
        for one in wrong[:4]:
            print(f"  {seed * 100_000 + number} ({name}): {one}", flush=True)
    return {
        "tried": count, "in trouble": troubles, "usual seconds": round(float(np.median(times)), 1),
        "longest": round(max(times), 1),
    }  # fmt: skip
