"""The hair as painted: real strokes laid with the paint engine, a picture after every layer."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import cv2
import numpy as np

from truesitter.core.canvas.hair_job import HairLayer
from truesitter.core.canvas.painted import Painted, Painting, paint
from truesitter.core.canvas.painted_borders import even_borders
from truesitter.core.canvas.patchwork import Patchwork
from truesitter.core.canvas.tuning import ROUND, SOFT_MM, SQUINT
from truesitter.core.colour.value import lab_value, linear_to_value, picture_luminance
from truesitter.core.imaging.blur import blur
from truesitter.core.imaging.pixels import box_of
from truesitter.core.paint.media.supports import Support
from truesitter.core.paint.tubes.rack import Rack
from truesitter.core.types import Bytes, Floats, Mask


@dataclass(frozen=True)
class HairCanvas:
    """Painted hair.

    Attributes
    ----------
    painted
        The canvas after each layer.
    flat
        Of each layer, whether it is laid flat: its border fades into what is beside it.
    soft_px
        How far it fades, in pixels.
    """

    painted: Painted
    flat: tuple[bool, ...]
    soft_px: float

    def picture(self, number: int, photograph: Bytes) -> Bytes:
        """After so many layers, over the photograph where nothing is painted yet; (h, w, 3) sRGB."""
        laid, stroked = (np.zeros(photograph.shape[0] * photograph.shape[1], bool) for _ in range(2))
        for change, flat in zip(self.painted.changes[:number], self.flat, strict=False):
            (laid if flat else stroked)[change.where] = True
        share = self._faded(laid.reshape(photograph.shape[:2]), stroked)
        out = photograph.reshape(-1, 3).copy()
        _blend(out, self.painted.picture(number).reshape(-1, 3), photograph.reshape(-1, 3), share)
        return out.reshape(photograph.shape)

    def pictures(self, photograph: Bytes) -> Iterator[Bytes]:
        """The same after each layer: strokes end sharp, what is laid flat fades."""
        laid, stroked = (np.zeros(photograph.shape[0] * photograph.shape[1], bool) for _ in range(2))
        shape = photograph.shape[:2]
        out, below = photograph.reshape(-1, 3).copy(), photograph.reshape(-1, 3)
        painted = zip(self.painted.frames(), self.painted.changes, self.flat, strict=True)
        for frame, change, flat in painted:
            (laid if flat else stroked)[change.where] = True
            if flat:
                share = self._faded(laid.reshape(shape), stroked)
                _blend(out, frame.reshape(-1, 4), below, share)
            else:
                # A stroke hides what is below; round it nothing is otherwise than before.
                out[change.where] = frame.reshape(-1, 4)[change.where, :3]
            yield out.reshape(photograph.shape).copy()

    def _faded(self, laid: Mask, stroked: Mask) -> Floats:
        """How far what is painted hides the photograph, 0–1 for each pixel."""
        fade = cv2.GaussianBlur(laid.astype(np.float32), (0, 0), self.soft_px)
        share = np.where(laid, np.clip(2 * fade - 1, 0, 1), np.float32(0)).ravel()
        share[stroked] = 1
        return np.asarray(share)

    def value(self, number: int) -> Floats:
        """Value of the canvas (h, w) after so many layers."""
        return lab_value(self.painted.labs.astype(np.float64)).astype(np.float32)[self.painted.stacks(number)]

    def errors(self, photograph: Bytes, wanted: Bytes, masks: Sequence[Mask]) -> tuple[float, ...]:
        """Mean distance in value of the hair after each layer from the reference, squinted, in steps.

        Parameters
        ----------
        photograph, wanted
            (h, w, 3) sRGB: what is seen where nothing is painted, and the reference.
        masks
            (h, w) for each layer where it is judged.
        """
        sigma = SQUINT * photograph.shape[0]
        # Nothing beyond the reach of the squint counts.
        box = box_of(np.any(masks, axis=0), round(4 * sigma) + 1)
        meant = linear_to_value(blur(picture_luminance(wanted[box]), sigma))
        found = []
        for picture, mask in zip(self.pictures(photograph), masks, strict=True):
            seen = linear_to_value(blur(picture_luminance(picture[box]), sigma))
            found.append(float(np.abs(seen - meant)[mask[box]].mean()))
        return tuple(found)


def _blend(out: Bytes, painted: Bytes, photograph: Bytes, share: Floats) -> None:
    """Put painted pixels (n, 3 or 4) over those of the photograph (n, 3), each by its share, into `out`."""
    touched = np.flatnonzero(share)
    ground = photograph[touched]
    over = painted[touched, :3].astype(np.float32) - ground
    out[touched] = np.round(ground + share[touched][:, None] * over)


def toned(photograph: Bytes, hair: Mask, support: Support) -> Support:
    """The support in the value of what lies round the hair, as when hair is painted into its surround.

    Parameters
    ----------
    photograph
        (h, w, 3) sRGB.
    hair
        (h, w) hair.
    support
        What is painted on.

    Returns
    -------
    Support
        The same, of another colour.
    """
    grown = cv2.dilate(hair.astype(np.uint8), np.ones((ROUND, ROUND), np.uint8)) > 0
    ring = grown & ~hair
    if not ring.any():
        return support
    return replace(
        support, reflectance=float(np.clip(picture_luminance(photograph)[ring].mean(), 0.03, 0.85))
    )


def paint_hair(
    layers: tuple[HairLayer, ...], mm_per_px: float, support: Support, rack: Rack
) -> HairCanvas | None:
    """Paint every layer on a bare support; nothing without layers.

    Parameters
    ----------
    layers
        From the lowest to the last.
    mm_per_px
        Canvas mm to a pixel, > 0.
    support
        What is painted on.
    rack
        The tubes by key.

    Returns
    -------
    HairCanvas | None
        The canvas after every layer; None without any.
    """
    if not layers:
        return None
    masks = [layer.mask.view(np.uint8) for layer in layers if not layer.lines]
    patchwork = Patchwork.of(layers[0].mask.shape, *masks)
    # Flat layers are laid sharp and fade when they are looked at: nothing of the ground shows round them.
    borders = even_borders(patchwork, 0, mm_per_px)
    painted = paint(borders, (Painting((layer.operation(patchwork),)) for layer in layers), support, rack)
    return HairCanvas(painted, tuple(not layer.lines for layer in layers), SOFT_MM / mm_per_px)
