"""Take the demo sitters' paintings anew: to be run when their plans have changed."""

from __future__ import annotations

from pathlib import Path

import truesitter.demo
from truesitter.core.graph.memo import Memo
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study
from truesitter.demo.paintings import SHOTS, taken
from truesitter.demo.seed import SITTERS


def main() -> None:
    """Write every photograph beside the sitters."""
    folder = Path(truesitter.demo.__file__).parent
    (folder / "paintings").mkdir(exist_ok=True)
    for entry in SITTERS:
        settings = {k: v for k, v in entry["settings"].items() if k != "done"}
        data = (folder / "sitters" / entry["file"]).read_bytes()
        study = Study.of_bytes(data, StudySettings.model_validate(settings), Memo())
        for shot in SHOTS[entry["file"]]:
            (folder / "paintings" / shot.file(entry["file"])).write_bytes(taken(study, shot))
            print(shot.file(entry["file"]), shot.after, study.easel.pass_count())


if __name__ == "__main__":
    main()
