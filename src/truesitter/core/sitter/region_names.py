"""The regions of a sitter and their numbers."""

from __future__ import annotations

from enum import IntEnum


class Region(IntEnum):
    """The region numbers of `regions.png`."""

    BACKGROUND = 0
    SKIN = 1
    HAIR = 2
    BROWS = 3
    FACIAL_HAIR = 4
    LIPS = 5
    EYES = 6
    GARMENT = 7
    MOUTH = 8
    SPECTACLES = 9
    HAT = 10
    JEWELLERY = 11

    @property
    def spoken(self) -> str:
        """As it is said."""
        return self.name.lower().replace("_", " ")


SOLVED = (Region.BACKGROUND, Region.SKIN, Region.HAIR, Region.FACIAL_HAIR, Region.GARMENT)
"""The regions found by colour and place; lips, eyes and brows follow the landmarks."""

FEATURES = (Region.EYES, Region.LIPS, Region.MOUTH, Region.BROWS)
"""What a likeness hangs on."""

WORN = (Region.SPECTACLES, Region.HAT, Region.JEWELLERY)
"""What a sitter wears besides cloth."""

DRAWN = (Region.MOUTH, *WORN)
"""Only where the painter draws them; a stroke that closes is filled. The mouth is its inside, teeth too."""
