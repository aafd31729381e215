"""The sitter in the picture: face, person, regions."""

from __future__ import annotations

from functools import cached_property

import numpy as np

from truesitter.core.graph.results import Source, result
from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.imaging.reduce import reduced_labels, reduced_size
from truesitter.core.reference.frame import whole_canvas
from truesitter.core.settings import RegionSettings
from truesitter.core.sitter import places
from truesitter.core.sitter.areas import Areas, areas_of
from truesitter.core.sitter.body_places import body_places
from truesitter.core.sitter.face import TEMPLES, Face
from truesitter.core.sitter.face_proportions import Proportion, face_proportions
from truesitter.core.sitter.framing import Framing, Head, framings, head_of
from truesitter.core.sitter.landmarks import Detection, detect, detect_faces
from truesitter.core.sitter.orientation import turns_wanted
from truesitter.core.sitter.region_names import WORN, Region
from truesitter.core.sitter.segmentation.first_guess import FirstGuess
from truesitter.core.sitter.segmentation.posterior import Looks
from truesitter.core.sitter.segmentation.region_borders import as_masses
from truesitter.core.sitter.segmentation.region_map import Regions, solve_regions
from truesitter.core.stages.picture_stage import PictureStage
from truesitter.core.stages.tuning import PLANNING_LONG_SIDE, ROUNDED, SITTER_STAGE_OUTLINE_LONG_SIDE
from truesitter.core.types import Mask
from truesitter.core.values.outlines import Outline, trace_outlines


class SitterStage:
    """What was found of the sitter, with the painter's corrections."""

    def __init__(self, source: Source, picture: PictureStage) -> None:
        self.source, self._picture = source, picture
        self.settings: RegionSettings = source.stage("regions")

    @result("detection", needs=("framed",), version=2)
    def detection(self) -> Detection:
        """Face and person mask."""
        return detect(self._picture.framed())

    @result("turns wanted", needs=("photograph",))
    def turns_wanted(self) -> int:
        """By how many more quarter turns the photograph seems to lie wrong."""
        return turns_wanted(self._picture.photograph())

    @result("heads in photograph", settings=("reference.keystone",), needs=("photograph", "turns wanted"))
    def heads_in_photograph(self) -> tuple[Head, ...]:
        """The heads in the whole photograph seen square on, the largest first; none while it lies wrong."""
        if self.turns_wanted():
            return ()
        picture = self._picture.square()
        found = detect(picture)
        faces = detect_faces(picture) or ((found.face,) if found.face else ())
        return tuple(head_of(face, found.person) for face in faces)

    def framings(self) -> tuple[Framing, ...]:
        """The frames that the photograph offers: round the largest head, closest first, then the others."""
        set_ = self._picture.settings
        canvas = (set_.canvas_width_mm, set_.canvas_height_mm)
        height, width = self._picture.photograph().shape[:2]
        whole = whole_canvas(width, height, max(canvas))
        return framings(self.heads_in_photograph(), (height, width), canvas, whole, set_.straighten)

    @property
    def face(self) -> Face | None:
        """The face, where one was found."""
        return self.detection().face

    @result("first guess", needs=("framed", "detection"), version=6)
    def first_guess(self) -> FirstGuess:
        """What is guessed of the regions before any stroke."""
        return FirstGuess.of(Looks.of(self._picture.framed()), self.detection())

    @result("regions", settings=("regions.scribbles",), needs=("first guess", "framed"), version=2)
    def regions(self) -> Regions:
        """Regions, with the painter's scribbles."""
        scribbles = tuple(s.scribble() for s in self.settings.scribbles)
        return solve_regions(self.first_guess(), self._picture.shape, scribbles)

    def features(self) -> Mask | None:
        """Eyes, nostrils and mouth, where smaller shapes are kept; None without a face."""
        face = self.face
        return None if face is None else face.feature_mask(self._picture.shape)

    def head_top(self) -> tuple[float, float] | None:
        """Top of the head with its hair, (x, y) in fractions; None without a face."""
        face = self.face
        if face is None:
            return None
        head = self.regions().mask(Region.HAIR, Region.SKIN)
        height, width = head.shape
        left, right = sorted(face.spot(i)[0] for i in TEMPLES)
        first = int(np.clip(left * width, 0, width - 1))
        inner = head[:, first : int(np.clip(right * width, first + 1, width))]
        rows = np.flatnonzero(inner.mean(axis=1) > 0.1)
        if not len(rows):
            return None
        return (left + right) / 2, float(rows[0]) / height

    def hairline(self) -> tuple[float, float] | None:
        """Where the hair begins straight above the brows, (x, y) in fractions; None when it does not."""
        face = self.face
        if face is None:
            return None
        labels = self.regions().labels
        brow = face.brow_middle
        for step in np.linspace(0, 0.6, 300):
            x, y = (float(v) for v in brow + (brow - face.chin) * step)
            if not (0 <= x < 1 and 0 <= y < 1):
                return None
            if labels[pixel_at(x, y, labels.shape)] == Region.HAIR:
                return x, y
        return None

    def proportions(self) -> tuple[Proportion, ...]:
        """The face's proportions beside the usual ones; none without a face."""
        face = self.face
        if face is None:
            return ()
        height, width = self._picture.shape
        return face_proportions(face, height / width, self.head_top(), self.hairline())

    @result("areas", settings=("regions.names",), needs=("regions", "detection"), version=2)
    def areas(self) -> Areas:
        """The picture divided by name, at the size that is planned at."""
        regions = reduced_labels(self.regions().labels, PLANNING_LONG_SIDE)
        return areas_of(regions, self.face, self.own_places())

    @result("region outlines", needs=("regions",))
    def outlines(self) -> tuple[Outline, ...]:
        """Outlines of the regions, in pixels of a map of `SITTER_STAGE_OUTLINE_LONG_SIDE`."""
        return trace_outlines(
            as_masses(reduced_labels(self.regions().labels, SITTER_STAGE_OUTLINE_LONG_SIDE), ROUNDED)
        )

    def map_width(self) -> int:
        """Width in pixels of the map the outlines are drawn on."""
        return reduced_size(self._picture.shape, SITTER_STAGE_OUTLINE_LONG_SIDE)[0]

    def region_at(self, x: float, y: float) -> Region:
        """Region at a spot, in fractions of the framed picture."""
        labels = self.regions().labels
        return Region(int(labels[pixel_at(x, y, labels.shape)]))

    @cached_property
    def body_places(self) -> tuple[places.OwnPlace, ...]:
        """Places of a body without a face, by the outline of the figure; none with one."""
        if self.face is not None:
            return ()
        regions = self.regions()
        labels = reduced_labels(regions.labels, PLANNING_LONG_SIDE)
        return body_places(labels == Region.SKIN, labels != Region.BACKGROUND, labels == Region.HAIR)

    def own_places(self) -> tuple[places.OwnPlace, ...]:
        """Places of the figure that the painter named, then those of a body without a face."""
        own = tuple(places.OwnPlace(p.name, p.x, p.y) for p in self.settings.names)
        taken = {p.name for p in own}
        return own + tuple(p for p in self.body_places if p.name not in taken)

    def place_centres(self) -> tuple[tuple[str, float, float], ...]:
        """Name and centre (x, y in fractions) of every place of the face, or of a body without one."""
        if self.face is not None:
            return tuple(places.place_centres(self.face))
        return tuple((p.name, p.x, p.y) for p in self.body_places)

    def place_at(self, x: float, y: float) -> str:
        """A spot in the painter's words: a place of the face, else its region."""
        region = self.region_at(x, y)
        if region in (Region.BACKGROUND, Region.GARMENT, Region.HAIR, *WORN):
            return region.name.lower()
        height, width = self._picture.shape
        place = places.place_of(x, y, self.face, height / width)
        if not places.is_unnamed(place):
            return place
        return places.own_name(x, y, self.own_places(), height / width) or place

    def hair_mask(self) -> Mask:
        """Hair of the head, facial hair and brows."""
        return self.regions().mask(Region.HAIR, Region.FACIAL_HAIR, Region.BROWS)
