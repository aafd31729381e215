"""Frames in words."""

from __future__ import annotations

from truesitter.core.design.frames import Framed


def frame_words(frame: Framed) -> str:
    """What a frame does beside the picture, as ``2.1 steps darker than its rim; closes it off calmly``."""
    way = "lighter" if frame.contrast > 0 else "darker"
    said = f"{abs(frame.contrast):.1f} steps {way} than the rim; "
    if frame.quiet:
        said += "hardly closes the picture off"
    elif frame.loud:
        said += "takes the eye outward"
    else:
        said += "closes it off calmly"
    return f"{said}, more colourful than the picture." if frame.outdoes else f"{said}."
