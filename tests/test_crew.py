"""Questions shared out to children: in order, complete when one is lost, errors where they belong, no child left."""

from __future__ import annotations

import multiprocessing
import os
import signal

import pytest

from lathed_solid.engine.crew import HELD, cores, shared_out

HERE = os.getpid()


def test_answers_come_in_order_from_children() -> None:
    told: list[tuple[int, int]] = []
    found = shared_out(lambda i: (i * i, os.getpid()), 40, 2, lambda done, total: told.append((done, total)))
    assert [n for n, _ in found] == [i * i for i in range(40)]
    by = {pid for _, pid in found}
    assert HERE not in by and 1 <= len(by) <= 2
    assert told == [(k, 40) for k in range(1, 41)]
    assert not multiprocessing.active_children()


def test_few_questions_are_answered_here() -> None:
    assert set(shared_out(lambda _: os.getpid(), 7, 2)) == {HERE}
    assert shared_out(lambda i: i, 0, 2) == [] and 1 <= cores() <= 8


def test_what_a_lost_child_had_in_hand_is_asked_again() -> None:
    def work(i: int) -> int:
        if i == 11 and os.getpid() != HERE:
            os.kill(os.getpid(), signal.SIGKILL)
        return i

    assert shared_out(work, 60, 2) == list(range(60))
    assert not multiprocessing.active_children()


def test_an_error_is_raised_here() -> None:
    def work(i: int) -> int:
        if i == 5:
            raise ValueError("five")
        return i

    with pytest.raises(ValueError, match="five"):
        shared_out(work, 30, 3)
    assert not multiprocessing.active_children()


def test_more_questions_than_a_pipe_holds() -> None:
    assert shared_out(lambda i: -i, 2 * HELD + 3, 2) == [-i for i in range(2 * HELD + 3)]
