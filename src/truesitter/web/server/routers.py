"""Every router of the application, in the order of the painter's work."""

from __future__ import annotations

from truesitter.web.routes import light
from truesitter.web.routes.easel import easel, easel_prints, easel_work
from truesitter.web.routes.flesh import (
    air,
    coats,
    combined,
    flesh,
    glaze,
    library,
    near,
    spot,
    swatches,
    tubes,
)
from truesitter.web.routes.hair import hair, hair_files, layers, locks
from truesitter.web.routes.log import drills, log, log_files, logbook
from truesitter.web.routes.passes import brushes, facts, finishing, passes, school, schools
from truesitter.web.routes.reference import (
    canvas,
    files,
    framings,
    measures,
    reference,
    settings,
    surround_room,
)
from truesitter.web.routes.studio import door, keeping, sitters
from truesitter.web.routes.values import looking, regions, sketches, values

ROUTERS = (
    *(module.router for module in (
        sitters, settings, facts, reference, framings, measures, values, looking, regions, sketches, flesh,
        spot, glaze, coats, combined, near, light, hair, locks, layers, hair_files, passes, school, schools,
        surround_room, finishing, files, library, tubes, brushes, canvas, swatches, air, easel, easel_work,
        easel_prints, keeping, door, log, log_files, logbook, drills,
    )),
    sitters.uploads, canvas.framed, door.line, log.planned, log_files.pictured, drills.rounds,
    drills.prepared,
)  # fmt: skip
