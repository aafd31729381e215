"""Who waits for whom: light requests for nobody, the hand not for heavy work, nobody for those who left."""

from __future__ import annotations

import asyncio
import os
import signal
import threading
import time
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import Any
from unittest.mock import patch

import anyio
import httpx
import psutil
import pytest
from fastapi import Request, Response
from fastapi.testclient import TestClient

from siege.server import Server
from truesitter.core.graph.memo import Abandoned, Memo, wanted_while
from truesitter.core.stages.light_stage import LightStage
from truesitter.store.settings.sitters import Repository
from truesitter.web.queue.lanes import GONE, Queue
from truesitter.web.queue.workers import MOVES_AFTER, Worker, Workers
from truesitter.web.server.app import create_app


def a_request(leave: anyio.Event | None = None) -> Request:
    """A request whose client stays, or leaves when told to."""

    async def receive() -> dict[str, Any]:
        await (leave.wait() if leave else anyio.sleep_forever())
        return {"type": "http.disconnect"}

    return Request({"type": "http", "method": "GET", "path": "/", "headers": []}, receive)


def test_first_come_first_served_one_at_a_time() -> None:
    async def main() -> list[int]:
        queue, order, at_work = Queue(1), [], 0

        async def work(number: int) -> Response:
            nonlocal at_work
            at_work += 1
            assert at_work == 1
            await anyio.sleep(0.01)
            at_work -= 1
            order.append(number)
            return Response()

        async with anyio.create_task_group() as group:
            for number in range(6):
                group.start_soon(queue.run, "heavy", a_request(), lambda n=number: work(n))
                await anyio.sleep(0)
        return order

    assert asyncio.run(main()) == list(range(6))


def test_who_leaves_the_line_is_never_served_and_keeps_no_place() -> None:
    async def main() -> None:
        queue, leave, served, over = Queue(1), anyio.Event(), [], anyio.Event()

        async def long() -> Response:
            await over.wait()
            return Response()

        async def short() -> Response:
            served.append(1)
            return Response()

        answers: list[int] = []

        async def ask() -> None:
            answers.append((await queue.run("heavy", a_request(leave), short)).status_code)

        async with anyio.create_task_group() as group:
            group.start_soon(queue.run, "heavy", a_request(), long)
            await anyio.sleep(0.01)
            group.start_soon(ask)
            await anyio.sleep(0.01)
            assert queue.crowd("heavy") == 2
            leave.set()
            await anyio.sleep(0.01)
            assert answers == [GONE]
            assert (await queue.run("quick", a_request(), short)).status_code == 200, "another lane"
            over.set()
        assert queue.crowd("heavy") == 0
        assert served == [1]

    asyncio.run(main())


def test_errors_come_out_as_they_are_and_free_the_place() -> None:
    async def main() -> None:
        queue = Queue(1)

        async def bad() -> Response:
            raise KeyError("x")

        for _ in range(3):
            with pytest.raises(KeyError):
                await queue.run("heavy", a_request(), bad)

    asyncio.run(main())


def test_work_for_nobody_stops_at_its_next_step_and_is_done_anew_for_who_waits() -> None:
    memo, wanted, began, steps = Memo(at_once=2), [True], threading.Event(), []

    def first() -> str:
        began.set()
        time.sleep(0.05)
        return "one"

    def whole() -> str:
        steps.append("whole")
        one = memo.get("one", first)
        return one + memo.get("two", lambda: "two")

    def leaver() -> None:
        with wanted_while(lambda: wanted[0]):
            memo.get("whole", whole)

    with ThreadPoolExecutor(2) as pool:
        left = pool.submit(leaver)
        began.wait()
        stays = pool.submit(memo.get, "whole", whole)
        time.sleep(0.01)
        wanted[0] = False
        with pytest.raises(Abandoned):
            left.result()
        assert stays.result() == "onetwo"
    assert steps == ["whole", "whole"]
    assert memo.peek("one") == "one", "steps that were done are kept"


@contextmanager
def held_up(at: Callable[[], None]) -> Iterator[None]:
    """The light's form takes as long as one likes."""
    real: Any = vars(LightStage)["form"]

    def slow(self: LightStage) -> Any:
        at()
        return real.__get__(self, LightStage)()

    with patch.object(LightStage, "form", slow):
        yield


def test_light_requests_and_the_hand_do_not_wait_for_heavy_work(client: TestClient, sitter: str) -> None:
    over = threading.Event()
    url = f"/api/sitters/{sitter}"
    client.get(f"{url}/values/preview?cuts=2,4")
    client.get(f"{url}/pictures/grey")
    with held_up(lambda: over.wait(30) and None), ThreadPoolExecutor(60) as pool:
        heavy = [pool.submit(client.get, f"{url}/light/form?n={n}") for n in range(50)]
        time.sleep(0.5)
        began = time.perf_counter()
        light = [
            pool.submit(client.get, path)
            for path in (url, "/api/sitters", f"{url}/values/preview?cuts=3,5", f"{url}/pictures/grey")
        ]
        assert [f.result(10).status_code for f in light] == [200] * 4
        assert time.perf_counter() - began < 10
        assert not any(f.done() for f in heavy)
        over.set()
        assert {f.result(60).status_code for f in heavy} == {200}


def test_an_answer_that_is_there_is_given_again_byte_for_byte(client: TestClient, sitter: str) -> None:
    url = f"/api/sitters/{sitter}/values"
    first, second = client.get(url), client.get(url)
    assert (first.content, first.headers["etag"]) == (second.content, second.headers["etag"])
    assert second.headers["content-type"] == "application/json"
    client.patch(f"/api/sitters/{sitter}/settings/values", json={"set": {"groups": 3}})
    assert len(client.get(url).json()["plan"]["groups"]) == 3
    client.post(f"/api/sitters/{sitter}/undo")
    assert client.get(url).content == first.content


def test_a_sitter_stays_with_a_process_unless_it_is_crowded(tmp_path: Path) -> None:
    workers = Workers(tmp_path, 2)
    first = workers.of("a")
    assert workers.of("b") is not first, "the next goes to the one that has fewer"
    assert workers.of("a") is first
    # However many wait for itself: elsewhere all of it would have to begin anew.
    first._asked["a"] = 40
    with patch.object(Queue, "crowd", lambda self, lane: 40 if self is first.queue else 0):
        assert workers.of("a") is first
        first._asked["c"] = MOVES_AFTER
        assert workers.of("a") is not first
    workers.stop()


def await_end(process: psutil.Process) -> None:
    """Until a process has ended, buried or not."""
    # One that is still loading its libraries, of low priority on a crowded machine, takes its time.
    for _ in range(1200):
        if not process.is_running() or process.status() == psutil.STATUS_ZOMBIE:
            return
        time.sleep(0.05)
    pytest.fail("it goes on")


def test_processes_end_with_the_one_that_started_them(tmp_path: Path) -> None:
    """Also when it is killed: nobody is left who could write to the folder."""
    with Server(tmp_path, "--processes", "1") as server:
        (worker,) = psutil.Process(server.process.pid).children()
        server.kill()
        await_end(worker)


def test_a_process_that_dies_is_started_again_and_asked_again(tmp_path: Path, made_photo: bytes) -> None:
    """The same answers as without processes, also for what one of them had on its desk when it died."""
    repository = Repository(tmp_path)
    sitter = repository.add(made_photo, "a.jpg").id
    paths = [f"/api/sitters/{sitter}/{name}" for name in ("values", "light/form", "flesh", "none")]
    with TestClient(create_app(repository), base_url="http://127.0.0.1") as client:
        alone = [(a.status_code, a.content) for a in map(client.get, paths)]
    workers = Workers(tmp_path, 1)
    (worker,) = workers.all
    with TestClient(create_app(repository, workers=workers), base_url="http://127.0.0.1") as client:
        assert not worker.here, "it is being started"
        first = client.get(paths[0])
        assert (first.status_code, first.content) == alone[0], "meanwhile this process answers"
        client.portal.call(worker.ready)  # type: ignore[union-attr]
        before = cpu(worker)
        assert [(a.status_code, a.content) for a in map(client.get, paths)] == alone
        assert cpu(worker) > before + 0.1, "it was the process that worked"
        with ThreadPoolExecutor(1) as pool:
            asked = pool.submit(client.get, f"/api/sitters/{sitter}/passes")
            while worker.queue.crowd("heavy") == 0:
                time.sleep(0.005)
            time.sleep(0.1)
            killed = worker.pid
            os.kill(killed, signal.SIGKILL)  # type: ignore[arg-type]
            assert asked.result(60).status_code == 200
        assert worker.pid != killed
    workers.stop()


def test_who_would_wait_in_line_waits_for_the_process_that_starts(tmp_path: Path, made_photo: bytes) -> None:
    """A crowd that comes with the start does not make this process as large as those that compute."""
    repository = Repository(tmp_path)
    sitter = repository.add(made_photo, "a.jpg").id
    workers = Workers(tmp_path, 1)
    app = create_app(repository, workers=workers)
    here = app.state.workbench.queue
    with TestClient(app, base_url="http://127.0.0.1") as client:
        assert not workers.all[0].here
        with patch.object(here, "crowd", return_value=here.at_once), patch.object(here, "run") as run:
            assert client.get(f"/api/sitters/{sitter}/values").status_code == 200
        run.assert_not_called()
    workers.stop()


def cpu(worker: Worker) -> float:
    times = psutil.Process(worker.pid).cpu_times()
    return float(times.user + times.system)


def test_a_process_that_does_not_start_is_said(tmp_path: Path) -> None:
    worker = Worker(["false"], tmp_path / "x.sock")
    with pytest.raises(ValueError, match="did not start"):
        asyncio.run(worker.ready())
    worker.stop()


def test_leaving_is_seen_over_the_wire(tmp_path: Path, made_photo: bytes) -> None:
    """A client that hangs up gives its place to the next at once."""
    with Server(tmp_path, "--processes", "1") as server, server.client() as client:
        put = client.post("/api/sitters", files={"photo": ("a.jpg", made_photo)}).json()
        url = f"/api/sitters/{put['id']}"
        hurried = httpx.Client(base_url=server.address, timeout=0.05)
        with pytest.raises(httpx.TimeoutException):
            hurried.get(f"{url}/passes?n=0")
        for number in range(1, 5):
            with suppress(httpx.TimeoutException):
                hurried.get(f"{url}/passes?n={number}")
        assert client.get(f"{url}/values").status_code == 200
