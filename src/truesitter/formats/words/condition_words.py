"""What a photograph is worth, in sentences."""

from __future__ import annotations

from truesitter.core.usecases.photograph_condition import Condition

_LEAST_SHARE = 0.0005
"""Less of a picture run into black or white is not told [try]."""


def condition_sentences(found: Condition) -> tuple[str, ...]:
    """What to know before planning from a photograph, the most important first."""
    said = []
    if found.tinted:
        said.append(
            "The photograph is all of one tint: no colour in it tells anything. Values hold; the colours of "
            "flesh, hair and cloth are yours to choose. The tint can be taken out."
        )
    elif found.colourless:
        said.append("The photograph has no colour. Values hold; all colours are yours to choose.")
    if found.balance is not None:
        said.append(
            f"The light was {_light(found.balance)}: no skin looks like this in white light. Balanced by the "
            "skin it comes near; a true grey to press on is surer."
        )
    if found.exposure > 0:
        said.append(
            f"The photograph is dark: even its lights are. Raise the middle by {found.exposure:.1f} steps; "
            "grain and bands come up with the darks, so trust masses there, not marks or colour."
        )
    elif found.exposure < 0:
        said.append(
            f"The photograph is light: even its darks are. Lower the middle by {-found.exposure:.1f} steps."
        )
    said.append(_lost(found))
    return tuple(said)


def _light(gains: tuple[float, float, float]) -> str:
    """The colour of the light that such gains take out."""
    red, blue = gains[0] / gains[1], gains[2] / gains[1]
    if red > 1.15 and blue > 1.15:
        return "green"
    if red < 0.87 and blue < 0.87:
        return "purple"
    return "yellow" if blue > red else "blue"


def _lost(found: Condition) -> str:
    ends = [
        f"{share:.1%} of the picture has run into {end}"
        for share, end in ((found.dark_share, "black"), (found.light_share, "white in one colour at least"))
        if share >= _LEAST_SHARE
    ]
    if not ends:
        return "Nothing has run into black or white."
    said = f"{' and '.join(ends)}."
    if found.lost:
        places = (f"{one.place} {one.share:.0%} {'white' if one.light else 'black'}" for one in found.lost)
        said += f" Most of it: {', '.join(places)}. What is lost no correction brings back."
    if found.dark_share >= _LEAST_SHARE:
        said += " Photographs strip colour from shadows: look at the sitter, or invent what is missing."
    return said
