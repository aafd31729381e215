"""Numbers of stages, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

from truesitter.core.plan.subject import Exactness

# accents_stage.py

CEILINGS_OF_HAIR = 3
"""So many lights of hair and beard are told with their ceilings, those that would hurt most [try]."""

SAME_LIGHT = 0.03
"""A highlight nearer to a peak than this part of the picture is the peak's own."""

LEAST_CLOTH = 0.01
"""Cloth is looked at from this part of the picture."""

LINE_REACH_MM = 1.0
"""Colours along a line are averaged over this distance on the canvas."""

# brush_stage.py

ARROW_LONG_SIDE = 360
"""Arrows of the brush are laid on maps of this size."""

STROKES_SIGMA, STROKES_SURE = 2.0, 0.3
"""A copy follows the strokes of its reference, averaged so far in pixels, where they lie so alike [try]."""

SPACING_MM = 14.0
"""Between arrows [try]."""

BRUSH_STAGE_LONGEST = 2.2
"""An arrow is at most so many spacings long."""

# drilling_stage.py

DRILL_LONG_SIDE = 600
"""Drills ask for places on maps of this size."""

SQUINT = 0.02
"""Of the masses, in heights of the picture [try]; chosen by eye on maren."""

BINS = 500
"""Of values: fiftieths of a step."""

KNOWN = 0.7
"""Shorter vectors are means of hairs that run apart."""

RIM = 2
"""Pixels at the border of the picture that no drill asks for."""

# easel_stage.py

SHOWN_LONG_SIDE = 2400
"""Photographs of paintings are worked on at this size at most."""

GRAIN_PX = 2.0
"""Sigma of the blur that takes a photograph's grain away, in pixels of the plan."""

# finishing_stage.py

FRECKLES_LONG_SIDE = 1500
"""Freckles are looked for at this size: they are a few pixels wide then."""

OFF_FOLDS_MM, OFF_EDGES_MM, OFF_FEATURES, GLEAMS = 1.5, 3.0, 1.6, 0.35
"""Freckles are looked for so far, in life, from folds and shine and from the borders of the skin, outside
features scaled by so much, and below so much of the shine [try]."""

HEAD_MM = 230.0
"""Height of a grown head in mm, chin to crown (from memory); of the face, four fifths of it."""

FACE_OF_HEAD = 0.8
"""Height of a face as part of the head's [try]."""

SEED = 7
"""The same texture every time."""

LEAST_SHARE = 0.01
"""Part of the picture from which on a place is told of [try]."""

# flesh_stage.py

SMALLEST_FAMILY = 0.0015
"""Part of the picture from which on a colour is a family of its own [try]."""

GRAIN = 0.001
"""Blur that evens out grain, as part of the picture's long side."""

POLISH_LONG_SIDE = 1000
"""How a surface carries the light is read at this size."""

# hair_layers_stage.py

BAND_SOFT_MM = 1.0
"""Lights of the hair finer than this are single hairs, and no band of shine [try]."""

JUDGED = 0.0025
"""Tones are cut on values squinted by this part of the picture's height, so that no hair is a tone."""

HAIR_LAYERS_STAGE_LONGEST = 0.95
"""Quantile of the lines' lengths that tells how long the hair is."""

# hair_stage.py

HAIR_LONG_SIDE = 1000
"""Volumes, locks and strokes are made on maps of this size."""

TURN_SPAN = 0.2
"""Of the face's height: over so much of its length the turn of hair is told."""

LOCK_WIDTH = 0.075
"""Width of a lock as part of the face's height [try]; chosen by eye on maren and tobias."""

FACE_OF_OVAL = 0.9
"""No knot covers this much of the face's outline."""

TEMPLE = 0.15
"""Of the face's height below the brows: so far down the hairline runs [try]."""

# light_stage.py

LIGHT_LONG_SIDE = 1000
"""Form, shine and recesses are read on maps of this size: the finest valley is still two pixels wide."""

FACE_OF_FIGURE = 0.3
"""Height of a face as part of the picture's, where none was found."""

HAIR_SHINE = 0.12
"""Hair shines where it stands above the light blurred so far, in heights of the face."""

FORM_SQUINT = 0.002
"""Blur for the form, as part of the picture's long side [try]."""

RECESS_SQUINT = 0.0008
"""Blur for the recesses, likewise [try]."""

MOST_EVEN = 0.3
"""More even light than this is the mesh's error."""

FRONT = (0.0, 0.0, 1.0)
"""The key light where nothing tells where it is: from where the viewer stands."""

# values_stage.py, ways of looking

CONTRAST_LONG_SIDE = 1000
"""Contrast is judged at this size."""

THUMBNAIL_LONG_SIDE = 480
"""Of a thumbnail sketch."""

SKETCH_LONG_SIDE = 240
"""Of a sketch in a few colours: it is judged from afar."""

THUMBNAIL_SMALLEST = 0.025
"""Smallest shape of a thumbnail sketch, as a fraction of its long side."""

LEAST_SQUINT = 0.002
"""Without any squint there are no masses to hold the marks against."""

# passes_stage.py

FADE = 0.008
"""Sigma of the rim of a place whose habit is allowed for, in parts of the long side [try]."""

HIGHLIGHT = 0.35
"""Mirrored light, as part of the skin's full light, that paper is kept for [try]."""

# picture_stage.py

HISTOGRAM_BINS = 200
"""Of values: twentieths of a step."""

SPOT = 0.006
"""Half the side of a spot that is read, as a fraction of the width."""

# sitter_stage.py

SITTER_STAGE_OUTLINE_LONG_SIDE = 800
"""Outlines of the regions are drawn on maps of this size."""

ROUNDED = 2.0
"""Outlines are drawn round masses: this spread in their pixels, 1 mm on a canvas of 400 mm."""

# line_stage.py

WALL_SEED = 11
"""Of the hand that strokes the background: the same picture has the same strokes."""

LIGHTEST_RIM = 0.75
"""Quantile of the values along the lower lids from which on they are the light of the rims [try]."""

# subject_stage.py

LINES_OF_STUDY = 0.5
"""Part of the many lines, of hair, strays and pores, that a study draws [try]."""

# surround_stage.py

PLANNING_LONG_SIDE = 1000
"""Passes are planned on maps of this size: 0.4 mm a pixel on a canvas of 300 × 400 mm."""

LOST_MM = 12.0
"""A stroke drawn along the outline loses the edge so far on both sides."""

# values_stage.py

SHAPES_OF: dict[Exactness, float] = {"study": 3.0, "portrait": 1.0, "copy": 0.5}
"""Smallest shapes beside a portrait's [try]: a study keeps to masses, a copy follows the photograph."""

VALUES_STAGE_OUTLINE_LONG_SIDE = 1200
"""Outlines of the value shapes are drawn on maps of this size."""

PREVIEW_LONG_SIDE = 1000
"""What follows a drag is computed at this size."""

LEAST_PX = 3.0
"""Pixels that a shape must measure to be more than grain, however large the canvas [try]."""
