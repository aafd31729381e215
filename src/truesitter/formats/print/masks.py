"""Lights to be masked, at true size: what to draw or cut."""

from __future__ import annotations

from truesitter.core.design.reserve import mask_shapes
from truesitter.core.stages import Study
from truesitter.formats.documents.plan_wash import reserves_of
from truesitter.formats.print.svg import coordinates


def masks_svg(study: Study, canvas_mm: tuple[float, float]) -> str:
    """Shapes of the lights that are masked, in canvas millimetres.

    Solid where tape can follow, with its width, dashed for masking fluid; soft lights are not among them.
    """
    strength = study.light.shine().strength()
    mm = canvas_mm[0] / strength.shape[1]
    lights = tuple(
        (named.light.x, named.light.y, named.light.strength)
        for named, kept in zip(study.accents.highlights(), reserves_of(study), strict=True)
        if kept.means == "mask"
    )
    paths = []
    for points, tape_mm in mask_shapes(strength, mm, lights):
        run = coordinates(points * mm)
        if tape_mm is None:
            title, kind = "masking fluid", 'class="fluid" stroke-dasharray="1.2 0.8"'
        else:
            title, kind = f"tape, {tape_mm:g} mm", 'class="tape"'
        paths.append(f'<polygon {kind} points="{run}"><title>{title}</title></polygon>')
    width, height = canvas_mm
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width:g}mm" height="{height:g}mm" '
        f'viewBox="0 0 {width:g} {height:g}" fill="none" stroke="#000" stroke-width="0.3">'
        f'<rect width="{width:g}" height="{height:g}"/>{"".join(paths)}</svg>'
    )
