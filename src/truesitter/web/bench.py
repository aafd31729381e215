"""What the routes work on: the shelf, the memory of results, and a study of each sitter."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import Depends, Request, Response, UploadFile

from truesitter.core.memo import Memo
from truesitter.core.reference.decode import LARGEST_FILE
from truesitter.core.reference.errors import UnusablePhotograph
from truesitter.core.study import Study
from truesitter.store.sitters import Shelf, Sitter


class Workbench:
    """Shelf and memory, shared by all requests."""

    def __init__(self, shelf: Shelf) -> None:
        self.shelf = shelf
        self.memo = Memo()

    def study(self, sitter: Sitter) -> Study:
        """The study of a sitter with the settings in force."""
        return Study(sitter.sha256, lambda: self.shelf.photograph(sitter.sha256), sitter.settings, self.memo)


def workbench(request: Request) -> Workbench:
    """The application's workbench."""
    bench: Workbench = request.app.state.workbench
    return bench


Bench = Annotated[Workbench, Depends(workbench)]


def _sitter(sitter_id: str, bench: Bench) -> Sitter:
    return bench.shelf.get(sitter_id)


CurrentSitter = Annotated[Sitter, Depends(_sitter)]


def _study(sitter: CurrentSitter, bench: Bench) -> Study:
    return bench.study(sitter)


CurrentStudy = Annotated[Study, Depends(_study)]


def picture_response(request: Request, key: str, make: Any) -> Response:
    """Answer with a picture, or with 304 when the browser has it already.

    Parameters
    ----------
    key
        ETag text: changes whenever the picture does.
    make
        Called for ``(bytes, media type)`` only when the picture is needed.
    """
    etag = f'"{key}"'
    headers = {"ETag": etag, "Cache-Control": "private, max-age=0, must-revalidate"}
    if request.headers.get("if-none-match") == etag:
        return Response(status_code=304, headers=headers)
    data, media = make()
    return Response(data, media_type=media, headers=headers)


def photograph_bytes(upload: UploadFile) -> bytes:
    """Bytes of an uploaded photograph; no more is read than one may have.

    Raises
    ------
    UnusablePhotograph
        For one that is too large.
    """
    data = upload.file.read(LARGEST_FILE + 1)
    if len(data) > LARGEST_FILE:
        raise UnusablePhotograph("The file is larger than 60 MB. Save a smaller copy.")
    return data


def download(data: bytes | str, media: str, name: str) -> Response:
    """Answer with a file to keep."""
    return Response(data, media_type=media, headers={"Content-Disposition": f'attachment; filename="{name}"'})
