"""What a pass does, in words: its borders, what is taken off, the lines it draws."""

from __future__ import annotations

from truesitter.core.paint.tubes.rack import Rack
from truesitter.core.plan.hand.seams import Seam
from truesitter.core.plan.pass_plan import Pass, StrokeTone
from truesitter.core.values.edges import Sharpness
from truesitter.formats.words.wording import added_sentence

SEEN_STEPS, SEEN_COLOUR = 0.1, 1.5
"""Value steps and a*b* distance from which on a gain is told: about what is just seen side by side."""


def seam_place(seam: Seam) -> str:
    """What lies on the other side, as ``hair``, ``lighter skin`` or ``other hair``."""
    if not seam.same:
        return seam.region.spoken
    return f"{('darker', 'other', 'lighter')[seam.step + 1]} {seam.region.spoken}"


def seam_words(seam: Seam, laid: bool = True) -> str:
    """A border, as ``towards hair soft, 6 mm, crisp here and soft there: a brush loaded on one side``.

    Of paint that is taken off instead of laid no means are told: the tool is the pass's own.
    """
    means = f": {seam.means}" if laid else ""
    if seam.kind is Sharpness.LOST:
        return f"towards {seam_place(seam)} lost{means}"
    width = seam.width_mm
    said = f"{width:.0f} mm" if width >= 2 else f"{width:.1f} mm"
    side = {"this": ", soft here and crisp there", "that": ", crisp here and soft there", None: ""}[
        seam.softer
    ]
    return f"towards {seam_place(seam)} {seam.kind.value}, {said}{side}{means}"


def edge_words(seams: tuple[Seam, ...]) -> str:
    """The borders of a pass in a few words, as ``mostly soft, firm towards garment and brows``.

    Parameters
    ----------
    seams
        At least one.
    """
    lengths: dict[Sharpness, float] = {}
    for seam in seams:
        lengths[seam.kind] = lengths.get(seam.kind, 0.0) + seam.length_mm
    most = max(lengths, key=lambda kind: lengths[kind])
    if len(lengths) == 1:
        return most.value
    others = []
    for kind in sorted((k for k in lengths if k is not most), key=lambda k: -lengths[k]):
        places = dict.fromkeys(seam_place(s) for s in seams if s.kind is kind)
        others.append(f"{kind.value} towards {' and '.join(places)}")
    return f"mostly {most.value}, {', '.join(others)}"


def touch_words(tone: StrokeTone, rack: Rack) -> str:
    """What goes into a pass's mixture for some of its strokes, as ``1 Ivory black to 6 parts of it``."""
    return f"{added_sentence(tone.added, rack)} to {tone.base} parts of it" if tone.added else ""


def varied_words(one: Pass, rack: Rack) -> str:
    """How the strokes of a pass vary in mixture, in a sentence; empty where all are of one."""
    said = [f"{tone.strokes} with {touch_words(tone, rack)}" for tone in one.tones if tone.added]
    if not said:
        return ""
    return f"Vary it: {one.tones[0].strokes} strokes as it is, {' and '.join(said)}."


def purpose_words(one: Pass, covered: bool) -> str:
    """What a pass is for, as what the finished canvas would be without it.

    Parameters
    ----------
    covered
        True where another pass lies over it.
    """
    if one.gain is None or not one.pieces.any():
        return "For the likeness and the hand: no measure of the canvas sees it."
    nearer = []
    if one.gain.steps >= SEEN_STEPS:
        nearer.append(f"{one.gain.steps:.1f} value steps")
    if one.gain.colour >= SEEN_COLOUR:
        nearer.append(f"{one.gain.colour:.0f} ΔE in colour")
    if nearer:
        return f"Without it its place would end {' and '.join(nearer)} farther from the sitter."
    if covered:
        return "Little of it is seen in the end: it carries what is laid over it."
    return "It moves the canvas by less than is seen: the first to leave out when time is short."


def taken_words(share: float, pressure: float) -> str:
    """How much to take off, as ``leave about a fifth, pressing hard``."""
    parts = (
        (0.07, "next to nothing"),
        (0.15, "a tenth"),
        (0.225, "a fifth"),
        (0.3, "a quarter"),
        (0.42, "a third"),
        (0.58, "half"),
        (0.71, "two thirds"),
        (0.85, "three quarters"),
    )
    left = next((words for most, words in parts if share < most), "nearly all")
    press = "hard" if pressure > 0.75 else "firmly" if pressure > 0.4 else "lightly"
    return (
        f"leave about {left} of it, pressing {press}" if share >= 0.07 else f"leave {left}, pressing {press}"
    )
