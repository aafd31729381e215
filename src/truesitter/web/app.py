"""The application."""

from __future__ import annotations

from pathlib import Path

from fastapi import FastAPI
from fastapi.responses import FileResponse, Response

from truesitter import __version__
from truesitter.store.sitters import Shelf
from truesitter.web import problems
from truesitter.web.bench import Workbench
from truesitter.web.routes import (
    files,
    flesh,
    glaze,
    hair,
    library,
    light,
    looking,
    measures,
    passes,
    reference,
    regions,
    sitters,
    swatches,
    tubes,
    values,
)

STATIC = Path(__file__).parent / "static"


def create_app(shelf: Shelf, static: Path = STATIC) -> FastAPI:
    """The application on a shelf; `static` holds the built front end."""
    app = FastAPI(title="True Sitter", version=__version__, docs_url=None, redoc_url=None)
    app.state.workbench = Workbench(shelf)
    problems.install(app)
    for module in (
        sitters,
        reference,
        measures,
        values,
        looking,
        regions,
        flesh,
        glaze,
        light,
        hair,
        passes,
        files,
        library,
        tubes,
        swatches,
    ):
        app.include_router(module.router)

    @app.api_route("/api/{rest:path}", methods=["GET", "POST", "PUT", "PATCH", "DELETE"],
                   include_in_schema=False)  # fmt: skip
    def unknown(rest: str) -> Response:
        return problems.problem(404, f"There is nothing at /api/{rest}.")

    @app.get("/{path:path}", include_in_schema=False)
    def front_end(path: str) -> Response:
        """Built files by name; every other address is a page of the front end."""
        root = static.resolve()
        target = (root / path).resolve()
        if target.is_file() and target.is_relative_to(root):
            forever = "public, max-age=31536000, immutable" if path.startswith("assets/") else "no-cache"
            return FileResponse(target, headers={"Cache-Control": forever})
        index = root / "index.html"
        if not index.is_file():
            return Response("The front end is not built; run ./sitter demo.", 503)
        return FileResponse(index, headers={"Cache-Control": "no-cache"})

    return app
