"""Many photographs at once, here and on a cluster: the same bytes, in order, whatever is lost on the way."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from pathlib import Path

import pytest
from distributed import LocalCluster
from fastapi.testclient import TestClient
from typer.testing import CliRunner

from tests.log import painted
from truesitter.cli.main import app
from truesitter.cli.plan import folders_for
from truesitter.core.refusal import Refusal
from truesitter.store.settings.sitters import Repository
from truesitter.web.queue.pools import Cluster, EmbeddedPool, LostCluster, LostWorker, Scheduler
from truesitter.web.queue.remote_tasks import RemoteTasks
from truesitter.web.server.app import create_app
from truesitter.web.server.remote_work import do

KILL = signal.SIGKILL


@pytest.fixture(scope="module")
def cluster() -> Iterator[LocalCluster]:
    """Two workers on this machine, each a process."""
    with LocalCluster(
        n_workers=2, threads_per_worker=1, processes=True, dashboard_address=None, host="127.0.0.1",
        silence_logs=50,
    ) as cluster:  # fmt: skip
        yield cluster


def die_once(job: tuple[str, int]) -> int:
    """Take the worker along the first time; afterwards there is a mark."""
    mark, number = job
    if number == 2 and not Path(mark).exists():
        Path(mark).write_text("x")
        os.kill(os.getpid(), KILL)
    time.sleep(0.05)
    return number * number


def die(_: int) -> int:
    os.kill(os.getpid(), KILL)
    return 0


def test_a_lost_worker_costs_only_time(tmp_path: Path, cluster: LocalCluster) -> None:
    here = EmbeddedPool(2)
    assert list(here.run(die_once, [(str(tmp_path / "a"), n) for n in range(6)])) == [0, 1, 4, 9, 16, 25]
    with pytest.raises(LostWorker):
        list(here.run(die, [1]))
    there = Cluster(Scheduler(cluster.scheduler_address))
    assert list(there.run(die_once, [(str(tmp_path / "b"), n) for n in range(6)])) == [0, 1, 4, 9, 16, 25]
    there.close()


def test_jobs_are_taken_as_they_can_be_done(cluster: LocalCluster) -> None:
    """A thousand photographs are not read before the first is planned."""
    for pool in (EmbeddedPool(2), Cluster(Scheduler(cluster.scheduler_address))):
        taken: list[int] = []
        jobs = (taken.append(n) or n for n in range(100))  # type: ignore[func-returns-value]
        results = pool.run(abs, jobs)
        assert next(results) == 0
        assert len(taken) < 10
        assert list(results) == list(range(1, 100))
        pool.close()


def test_plans_are_the_same_bytes_wherever_they_are_made(
    tmp_path: Path, made_photo: bytes, cluster: LocalCluster
) -> None:
    (tmp_path / "one").mkdir()
    (tmp_path / "two").mkdir()
    photos = [tmp_path / "one" / "made.jpg", tmp_path / "two" / "made.jpg"]
    for photo in photos:
        photo.write_bytes(made_photo)
    bad = tmp_path / "bad.jpg"
    bad.write_text("words")
    run = CliRunner().invoke
    alone = run(app, ["plan", str(photos[0]), "--out", str(tmp_path / "alone")])
    assert alone.exit_code == 0, alone.output
    many = run(
        app, ["plan", *map(str, photos), str(bad), "--out", str(tmp_path / "here"), "--processes", "2"]
    )
    assert many.exit_code == 2
    assert "1 of 3 photographs could not be planned" in many.output
    address = ["--scheduler", cluster.scheduler_address]
    far = run(app, ["plan", *map(str, photos), "--out", str(tmp_path / "far"), *address])
    assert far.exit_code == 0, far.output
    names = sorted(p.name for p in (tmp_path / "alone").iterdir())
    assert "plan.json" in names
    for folder in ("here/made", "here/made-2", "far/made", "far/made-2"):
        assert sorted(p.name for p in (tmp_path / folder).iterdir()) == names
        for name in names:
            same = (tmp_path / folder / name).read_bytes() == (tmp_path / "alone" / name).read_bytes()
            assert same, f"{folder}/{name}"
    assert not (tmp_path / "here" / "bad").exists()


def test_a_server_with_a_cluster_gives_the_same_answers(
    tmp_path: Path, made_photo: bytes, cluster: LocalCluster
) -> None:
    repository = Repository(tmp_path)
    sitter = repository.add(made_photo, "a.jpg").id
    repository.log.take_in(painted({"skin": 1.5}, 3, 1), sitter)
    url = f"/api/sitters/{sitter}"
    asked = ("values", "pictures/groups", "light/form", "flesh/spot?x=.5&y=.5", "flesh/batch")
    paths = [f"{url}/{name}" for name in asked]
    with TestClient(create_app(repository), base_url="http://127.0.0.1") as client:
        alone = [client.get(path) for path in paths]
    far = Cluster(Scheduler(cluster.scheduler_address))
    with TestClient(
        create_app(repository, remote_tasks=RemoteTasks(far, repository, do)), base_url="http://127.0.0.1"
    ) as client:
        again = [client.get(path) for path in paths]
        client.patch(f"{url}/settings/values", json={"set": {"groups": 3}})
        assert len(client.get(paths[0]).json()["plan"]["groups"]) == 3
        assert client.get(f"{url}/values/preview?cuts=3,5").status_code == 200, "what is not declared"
        assert client.get("/api/sitters/none/values").status_code == 404
    for one, other in zip(alone, again, strict=True):
        assert (one.status_code, one.content, one.headers["etag"]) == (
            other.status_code, other.content, other.headers["etag"],
        )  # fmt: skip
    far.close()


def test_no_scheduler_and_no_dask_are_said(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        nobody = f"tcp://127.0.0.1:{probe.getsockname()[1]}"
        monkeypatch.setattr("truesitter.web.queue.pools._ANSWERS_WITHIN", "1s")
        with pytest.raises(Refusal, match="no scheduler answers"):
            Cluster(Scheduler(nobody))
    monkeypatch.setitem(sys.modules, "distributed", None)
    with pytest.raises(Refusal, match="pip install"):
        Cluster(Scheduler("tcp://127.0.0.1:1"))


@pytest.mark.parametrize(
    ("address", "words"),
    [
        ("tcp://10.0.0.5:8786", "run programs as you"), ("tcp://studio.local:8786", "run programs as you"),
        ("tls://10.0.0.5:8786", "--cluster-ca"), ("http://127.0.0.1:8786", "is given as"),
        ("tcp://127.0.0.1", "is given as"), ("tcp://127.0.0.1:none", "is given as"), ("", "is given as"),
    ],
)  # fmt: skip
def test_a_scheduler_that_anybody_could_reach_is_refused(address: str, words: str) -> None:
    with pytest.raises(Refusal, match=words):
        Scheduler(address)


def test_a_wrong_address_is_said_in_seconds_and_leaves_nothing_behind(tmp_path: Path) -> None:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        nobody = f"tcp://127.0.0.1:{probe.getsockname()[1]}"
    began = time.monotonic()
    command = [sys.executable, "-m", "truesitter.cli", "serve", "--data", str(tmp_path / "new")]
    done = subprocess.run([*command, "--scheduler", nobody], capture_output=True, text=True, check=False)
    assert done.returncode == 2
    assert "no scheduler answers" in done.stderr
    assert time.monotonic() - began < 30
    assert not (tmp_path / "new").exists()


def test_plans_do_not_wait_for_ever_where_nobody_works(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("truesitter.web.queue.pools._JOINS_WITHIN", 1.0)
    with _alone(0) as address:
        nobody = Cluster(Scheduler(address))
        with pytest.raises(LostCluster, match="no worker has joined"):
            list(nobody.run(abs, [1, 2]))
        nobody.close()


@contextmanager
def _alone(workers: int) -> Iterator[str]:
    with LocalCluster(
        n_workers=workers, threads_per_worker=1, processes=True, dashboard_address=None, host="127.0.0.1",
        silence_logs=50,
    ) as cluster:  # fmt: skip
        yield cluster.scheduler_address


def test_a_server_goes_on_whatever_becomes_of_its_cluster(
    tmp_path: Path, made_photo: bytes, monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture
) -> None:
    """A worker is killed, then all of them, then the scheduler ends: each answer comes all the same."""
    monkeypatch.setattr("truesitter.web.queue.remote_tasks.ASKED_AGAIN", 0.5)
    repository = Repository(tmp_path)
    url = f"/api/sitters/{repository.add(made_photo, 'a.jpg').id}"
    with ExitStack() as stack:
        cluster = stack.enter_context(
            LocalCluster(n_workers=2, threads_per_worker=1, processes=True, dashboard_address=None,
                         host="127.0.0.1", silence_logs=50)
        )  # fmt: skip
        far = Cluster(Scheduler(cluster.scheduler_address))
        remote_tasks = RemoteTasks(far, repository, do)
        app = create_app(repository, remote_tasks=remote_tasks)
        client = stack.enter_context(TestClient(app, base_url="http://127.0.0.1"))

        def groups(number: int) -> int:
            """A question that was never asked before."""
            client.patch(f"{url}/settings/values", json={"set": {"groups": number}})
            answer = client.get(f"{url}/values")
            assert answer.status_code == 200, answer.text
            return len(answer.json()["plan"]["groups"])

        assert groups(3) == 3
        first = next(iter(cluster.workers.values()))
        os.kill(first.pid, KILL)
        assert groups(4) == 4
        cluster.scale(0)
        time.sleep(1)
        assert groups(5) == 5
        assert "is computed here meanwhile" in caplog.text
        cluster.scale(1)
        remote_tasks._cluster.wait_for_someone()
        time.sleep(1)
        assert groups(6) == 6
        assert "the cluster computes again" in caplog.text
        cluster.close()
        assert groups(7) == 7
        time.sleep(1)
        assert groups(2) == 2
    repository.close()


def test_every_plan_has_a_folder_of_its_own(tmp_path: Path) -> None:
    photos = [Path("a/x.jpg"), Path("b/x.png"), Path("c/y.jpg")]
    assert [f.name for f in folders_for(photos, tmp_path)] == ["x", "x-2", "y"]
    assert folders_for(photos[:1], tmp_path) == [tmp_path]
