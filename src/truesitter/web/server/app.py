"""The application."""

from __future__ import annotations

from pathlib import Path

from fastapi import FastAPI
from fastapi.responses import FileResponse, Response

from truesitter import __version__
from truesitter.store.settings.sitters import Repository
from truesitter.web.access.sessions import SessionAuth
from truesitter.web.http import problems
from truesitter.web.http.dependencies import REMEMBERED, Workbench
from truesitter.web.http.guard import InnerAuth, OriginCheck
from truesitter.web.http.limits import BodyLimit
from truesitter.web.queue.remote_tasks import RemoteTasks
from truesitter.web.queue.workers import Workers
from truesitter.web.server.routers import ROUTERS

STATIC = Path(__file__).parents[1] / "static"


def create_app(
    repository: Repository,
    static: Path = STATIC,
    workers: Workers | None = None,
    most_bytes: int = REMEMBERED,
    within: bool = False,
    door: SessionAuth | None = None,
    remote_tasks: RemoteTasks | None = None,
) -> FastAPI:
    """The application on a shelf.

    Parameters
    ----------
    static
        The built front end.
    workers
        Processes that compute; None to do so in this one.
    most_bytes
        Of results remembered.
    within
        True for a process that only another one of this application can reach.
    door
        Of a studio that is open to other machines; None for one machine alone.
    remote_tasks
        To a cluster that computes; None without one.
    """
    app = FastAPI(title="True Sitter", version=__version__, docs_url=None, redoc_url=None)
    app.state.workbench = Workbench(repository, most_bytes, workers, door, remote_tasks)
    app.add_middleware(BodyLimit)
    if within:
        app.add_middleware(InnerAuth)
    else:
        app.add_middleware(OriginCheck, door=door)
    problems.install(app)
    for router in ROUTERS:
        app.include_router(router)

    @app.api_route("/api/{rest:path}", methods=["GET", "POST", "PUT", "PATCH", "DELETE"],
                   include_in_schema=False)  # fmt: skip
    def unknown(rest: str) -> Response:
        return problems.problem(404, f"There is nothing at /api/{rest[:100]}.")

    @app.get("/{path:path}", include_in_schema=False)
    def front_end(path: str) -> Response:
        """Built files by name; every other address is a page of the front end."""
        if path.startswith("assets/") or "." in path.rsplit("/", 1)[-1]:
            return _file(static, path)
        index = static / "index.html"
        if not index.is_file():
            return Response("The front end is not built; run ./sitter demo.", 503)
        return FileResponse(index, headers={"Cache-Control": "no-cache"})

    return app


def _file(static: Path, path: str) -> Response:
    """A built file, never one outside the folder."""
    root = static.resolve()
    try:
        target = (root / path).resolve()
        found = target.is_file() and target.is_relative_to(root)
    except (OSError, ValueError):
        # Too long for a name, or no name at all.
        found = False
    if not found:
        return problems.problem(404, "There is no such file.")
    forever = "public, max-age=31536000, immutable" if path.startswith("assets/") else "no-cache"
    return FileResponse(target, headers={"Cache-Control": forever})
