"""`truesitter plan`: whole plans for one photograph or many, each into a folder of its own."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from truesitter.core.refusal import Refusal
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study
from truesitter.formats.folder import plan_files
from truesitter.web.queue.pools import Pool


@dataclass(frozen=True)
class PlanJob:
    """A photograph to be planned: its bytes, the settings as JSON, the title on the sheet."""

    data: bytes
    settings: str
    title: str


@dataclass(frozen=True)
class Planned:
    """The files of a plan by name and a sentence about it; or why there is none."""

    files: dict[str, bytes]
    sentence: str
    refused: bool = False


def planned(job: PlanJob) -> Planned:
    """Do a job, wherever this is."""
    try:
        study = Study.of_bytes(job.data, StudySettings.model_validate_json(job.settings))
        plan, files = plan_files(study, job.title)
    except Refusal as error:
        return Planned({}, error.sentence, refused=True)
    face = "a face" if plan.face_found else "no face"
    sentence = (
        f"{len(plan.values.groups)} value groups, {len(plan.flesh.mixtures)} flesh mixtures, "
        f"{len(plan.light.peaks)} light peaks, {plan.hair.lines} growth lines, "
        f"{len(plan.passes)} passes; {face} was found."
    )
    return Planned(files, sentence)


def folders_for(photos: list[Path], out: Path) -> list[Path]:
    """Where each plan goes: one alone into the folder itself, several below it by the photographs' names."""
    if len(photos) == 1:
        return [out]
    met: Counter[str] = Counter()
    found = []
    for photo in photos:
        met[photo.stem] += 1
        found.append(out / (photo.stem if met[photo.stem] == 1 else f"{photo.stem}-{met[photo.stem]}"))
    return found


def write_plans(photos: list[Path], out: Path, settings: StudySettings, pool: Pool | None) -> Iterator[str]:
    """Plan photographs and write the files; a sentence for each as it is done.

    Parameters
    ----------
    pool
        Where it is done; None for here.

    Raises
    ------
    Refusal
        At the end, when some could not be planned; the others are there.
    """
    said = settings.model_dump_json()
    # Read as their turn comes: many photographs are more than memory holds.
    jobs = (PlanJob(p.read_bytes(), said, p.stem) for p in photos)
    failed = 0
    done = map(planned, jobs) if pool is None else pool.run(planned, jobs)
    for photo, folder, result in zip(photos, folders_for(photos, out), done, strict=True):
        if result.refused:
            if len(photos) == 1:
                raise Refusal(result.sentence)
            failed += 1
            yield f"{photo}: {result.sentence}"
            continue
        folder.mkdir(parents=True, exist_ok=True)
        for name, data in result.files.items():
            (folder / name).write_bytes(data)
        yield f"{folder}: {result.sentence}"
    if failed:
        raise Refusal(f"{failed} of {len(photos)} photographs could not be planned")
