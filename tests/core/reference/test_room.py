"""A shared allowance of memory: never more than there is, and nobody left waiting for ever."""

from __future__ import annotations

import threading
import time
from concurrent.futures import ThreadPoolExecutor

import pytest

from truesitter.core.reference.room import MemoryRoom


def test_no_more_is_in_use_than_there_is() -> None:
    room, lock = MemoryRoom(100), threading.Lock()
    used, most = 0, 0

    def work(amount: int) -> None:
        nonlocal used, most
        with room.take(amount):
            with lock:
                used += amount
                most = max(most, used)
            time.sleep(0.002)
            with lock:
                used -= amount

    with ThreadPoolExecutor(8) as pool:
        list(pool.map(work, [10, 60, 35, 50, 90, 5, 40, 70, 100, 1] * 6))
    assert 50 < most <= 100
    assert used == 0


def test_what_needs_more_than_there_is_gets_it_alone() -> None:
    room, order = MemoryRoom(100), []
    inside = threading.Event()

    def large() -> None:
        with room.take(5000):
            inside.set()
            time.sleep(0.05)
            order.append("large")

    thread = threading.Thread(target=large)
    thread.start()
    assert inside.wait(5)
    with room.take(1):
        order.append("small")
    thread.join(5)
    assert order == ["large", "small"]


def test_what_fails_gives_its_room_back() -> None:
    room = MemoryRoom(10)
    with pytest.raises(RuntimeError), room.take(10):
        raise RuntimeError
    with room.take(10):
        pass


def test_more_room_lets_in_whoever_waits() -> None:
    room, inside = MemoryRoom(10), threading.Event()

    def wait() -> None:
        with room.take(8):
            inside.set()

    with room.take(8):
        thread = threading.Thread(target=wait)
        thread.start()
        assert not inside.wait(0.05)
        room.resize(16)
        assert inside.wait(5)
    thread.join(5)
