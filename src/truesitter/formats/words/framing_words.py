"""Sentences about how a photograph is framed."""

from __future__ import annotations

from truesitter.core.usecases.framing_advice import FramedFace


def turn_sentence(turns: int) -> str:
    """Why a photograph should be turned; empty when it stands.

    Examples
    --------
    >>> turn_sentence(2)
    'The photograph seems to stand on its head.'
    """
    if not turns:
        return ""
    return f"The photograph seems to {'stand on its head' if turns == 2 else 'lie on its side'}."


def framing_sentence(now: FramedFace) -> str:
    """What should be known of the face in the frame as it is set; empty when all is well."""
    if now.face_mm is None or now.brush_mm is None or now.head_share is None:
        return (
            "No face was found. Values, flesh by spots and hair by guides work all the same; skin, hair and "
            "garment are guessed by colour: look at them under regions."
        )
    if not now.small:
        return ""
    return (
        f"The head takes {now.head_share:.0%} of the height: its face will be {now.face_mm:.0f} mm high, and "
        f"its features need a brush of {now.brush_mm:g} mm. A closer frame makes them larger."
    )
