"""plan.json: the whole plan as data, documented by these models."""

from __future__ import annotations

from pydantic import Field

from truesitter.core.paint.tubes.rack import Rack
from truesitter.core.settings import EaselSettings, StudySettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages import Study
from truesitter.formats.documents.plan_brushes import PlanBrush, brushes_of
from truesitter.formats.documents.plan_hair import PlanHair, hair_of
from truesitter.formats.documents.plan_heaps import PlanPaletteHeap, heaps_of
from truesitter.formats.documents.plan_light import PlanLight, light_of
from truesitter.formats.documents.plan_passes import PlanPass, PlanTime, passes_of, time_of
from truesitter.formats.words.told import Out, PlanDilution, PlanHeap, dilution_if, heap_of

Lab = tuple[float, float, float]


class PlanReference(Out):
    """The photograph and its frame."""

    width: int = Field(description="Width of the framed picture in pixels")
    height: int = Field(description="Height of the framed picture in pixels")
    sha256: str = Field(description="SHA-256 of the photograph's bytes")
    canvas_mm: tuple[float, float] = Field(description="Width and height of the canvas")


class PlanGroup(Out):
    """One value group."""

    index: int = Field(description="0 is the darkest")
    name: str
    low: float = Field(description="Lower cut, value steps 0–10")
    high: float = Field(description="Upper cut, value steps 0–10")
    value: float = Field(description="Mean value")
    share: float = Field(description="Part of the picture, 0–1")
    area_cm2: float
    lab: Lab = Field(description="Mean L*a*b*, D65")


class PlanValues(Out):
    """Cuts and groups."""

    cuts: list[float]
    groups: list[PlanGroup]


class PlanMixture(Out):
    """The mixture for one value group of the skin."""

    group: int
    share: float = Field(description="Part of the skin, 0–1")
    target_lab: Lab = Field(description="Wanted, fitted into the palette's reach")
    seen_lab: Lab = Field(description="In the photograph")
    predicted_lab: Lab
    predicted_hex: str
    delta_e: float = Field(description="CIEDE2000 of predicted to target")
    value_error: float = Field(description="Predicted minus target, value steps")
    parts: dict[str, int] = Field(description="Whole parts by volume, by tube key, straight from the tubes")
    heap: PlanHeap | None = None
    dilution: PlanDilution | None = Field(default=None, description="Of a wash; none for opaque paint")
    reached: bool
    suggested_tube: str | None = None


class PlanFlesh(Out):
    """Palette and mixtures."""

    palette: list[str]
    names: dict[str, str] = Field(description="Name and Colour Index name of each tube set out, by its key")
    transparent: bool
    darkest: float = Field(description="Darkest value the palette makes")
    lightest: float
    mixtures: list[PlanMixture]


class Plan(Out):
    """A whole plan."""

    reference: PlanReference
    values: PlanValues
    regions: dict[str, float]
    face_found: bool
    flesh: PlanFlesh
    light: PlanLight
    hair: PlanHair
    school: str = Field(description="Key of the school that the passes follow")
    time: PlanTime | None = Field(description="None where there are no passes")
    heaps: list[PlanPaletteHeap] = Field(description="Mixed once on the palette, most first")
    brushes: list[PlanBrush] = Field(description="What it is painted with, widest first")
    passes: list[PlanPass]
    remarks: list[str]
    files: dict[str, str]
    settings: StudySettings = Field(description="Everything the painter set: it gives this plan again")


def values_of(study: Study) -> PlanValues:
    """Value groups of a study."""
    plan = study.values.plan()
    names = study.settings.values.group_names()
    reference = study.settings.reference
    canvas_cm2 = reference.canvas_width_mm * reference.canvas_height_mm / 100
    groups = [
        PlanGroup(
            index=g.index, name=names[g.index], low=g.low, high=g.high, value=g.value,
            share=g.share, area_cm2=g.share * canvas_cm2, lab=g.lab,
        )
        for g in plan.groups
    ]  # fmt: skip
    return PlanValues(cuts=list(plan.cuts), groups=groups)


def flesh_of(study: Study) -> PlanFlesh:
    """Mixtures of a study."""
    flesh, palette = study.flesh.mixed(), study.flesh.palette()
    return PlanFlesh(
        palette=list(palette.tubes),
        names={key: f"{palette.pigment(key).name} ({palette.pigment(key).ci_name})" for key in palette.tubes},
        transparent=palette.transparent,
        darkest=flesh.reach.darkest,
        lightest=flesh.reach.lightest,
        mixtures=[
            PlanMixture(
                group=m.group,
                share=m.share,
                target_lab=m.recipe.target_lab,
                seen_lab=m.seen_lab,
                predicted_lab=m.recipe.predicted.lab,
                predicted_hex=m.recipe.predicted.hex,
                delta_e=m.recipe.delta_e,
                value_error=m.recipe.value_error,
                parts=m.recipe.parts,
                heap=heap_of(m.recipe.parts, palette.rack),
                dilution=dilution_if(m.recipe, palette.thinning.thinner),
                reached=m.recipe.reached,
                suggested_tube=m.suggestion.tube if m.suggestion else None,
            )
            for m in flesh.mixtures
        ],
    )


def tubes_used(plan: Plan, rack: Rack) -> list[str]:
    """Every tube that some recipe of the plan uses, in the rack's order."""
    used = {
        k for p in plan.passes for parts in (p.parts, *((c.parts | c.added) for c in p.charge)) for k in parts
    }
    used |= {k for m in plan.flesh.mixtures for k in m.parts} | {k for h in plan.heaps for k in h.parts}
    return [p.key for p in rack.pigments() if p.key in used]


def plan_of(study: Study, files: dict[str, str]) -> Plan:
    """The whole plan of a study.

    Parameters
    ----------
    files
        Names of the files that go with it, by what they hold.
    """
    height, width = study.picture.framed().shape[:2]
    reference = study.settings.reference
    shares = study.sitter.regions().shares()
    passes, remarks = passes_of(study)
    time = time_of(study)
    return Plan(
        reference=PlanReference(
            width=width,
            height=height,
            sha256=study.sha256,
            canvas_mm=(reference.canvas_width_mm, reference.canvas_height_mm),
        ),
        values=values_of(study),
        regions={r.name.lower(): shares[r.name.lower()] for r in Region},
        face_found=study.sitter.face is not None,
        flesh=flesh_of(study),
        light=light_of(study),
        hair=hair_of(study),
        school=study.settings.passes.school,
        time=time,
        heaps=heaps_of(study),
        brushes=brushes_of(study),
        passes=passes,
        remarks=remarks,
        files=files,
        settings=study.source.settings.model_copy(update={"easel": EaselSettings()}),
    )
