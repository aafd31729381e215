"""What the browser may keep: each answer declares once what it depends on, and its ETag follows from that."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import nullcontext
from functools import wraps
from typing import Any

from fastapi import Depends, Request, Response
from fastapi.routing import APIRoute

from truesitter.core.study import Study
from truesitter.core.study.results import Declaration, Needs
from truesitter.formats.pictures import VIEWS
from truesitter.web.bench import CurrentStudy

_ANSWERS: dict[str, Declaration] = {}
CACHING = "private, max-age=0, must-revalidate"


class NotModified(Exception):
    """The browser has this answer already."""

    def __init__(self, etag: str) -> None:
        super().__init__(etag)
        self.etag = etag


def answers() -> dict[str, Declaration]:
    """The declaration of every answer by its path below a sitter, pictures among them."""
    pictures = {f"pictures/{name}": view.declaration for name, view in VIEWS.items()}
    return {**_ANSWERS, **pictures}


def answered(
    path: str, settings: tuple[str, ...] = (), needs: Needs = (), version: int = 1
) -> Any:  # fmt: skip
    """Declare what the answer at a path below a sitter depends on; a dependency of its route."""
    declaration = Declaration(path, settings, needs, version)
    _ANSWERS[path] = declaration

    def fresh(request: Request, response: Response, study: CurrentStudy) -> None:
        etag = f'"{study.key(declaration)}"'
        if request.headers.get("if-none-match") == etag:
            raise NotModified(etag)
        response.headers["ETag"] = etag
        response.headers["Cache-Control"] = CACHING

    return Depends(fresh)


def keys_of(study: Study) -> dict[str, str]:
    """For every answer a key that changes exactly when the answer may: the browser's query keys."""
    return {path: study.key(declaration) for path, declaration in answers().items()}


def picture_response(request: Request, key: str, make: Callable[[], tuple[bytes, str]]) -> Response:
    """Answer with a picture, or with 304 when the browser has it already.

    Parameters
    ----------
    key
        ETag text: changes whenever the picture does.
    make
        Called for ``(bytes, media type)`` only when the picture is needed.
    """
    etag = f'"{key}"'
    if request.headers.get("if-none-match") == etag:
        raise NotModified(etag)
    data, media = make()
    return Response(data, media_type=media, headers={"ETag": etag, "Cache-Control": CACHING})


class BenchRoute(APIRoute):
    """A route whose work is done at a place of the bench: only so many at a time."""

    def __init__(self, path: str, endpoint: Callable[..., Any], **options: Any) -> None:
        super().__init__(path, _at_a_place(endpoint), **options)


def _at_a_place(endpoint: Callable[..., Any]) -> Callable[..., Any]:
    @wraps(endpoint)
    def working(*args: Any, **kwargs: Any) -> Any:
        study = next((v for v in kwargs.values() if isinstance(v, Study)), None)
        with study.source.memo.place() if study else nullcontext():
            return endpoint(*args, **kwargs)

    return working
