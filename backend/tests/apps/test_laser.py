"""The simulated laser: its protocol, its faults, and its own idea of time."""

from __future__ import annotations

import json

import pytest

from devices.laser import Laser, job_seconds, reply
from devices.serving import answer

MOVES = [{"path": "a", "points": [[10, 10], [60, 10], [60, 40], [10, 40], [10, 10]], "speed": 20, "power": 60, "passes": 1}]


def say(laser: Laser, **message: object) -> dict:
    return answer(lambda m: reply(laser, m), json.dumps(message).encode())


def test_a_job_runs_from_load_to_done() -> None:
    laser = Laser(pace=10)
    assert say(laser, do="load", job="one", moves=MOVES)["seconds"] == pytest.approx(job_seconds(MOVES))
    assert say(laser, do="start")["ok"]
    for _ in range(300):
        laser.tick(0.02)
    status = say(laser, do="status")
    assert (status["state"], status["x"], status["y"]) == ("done", 10, 10)


def test_pause_holds_the_clock_and_resume_goes_on() -> None:
    laser = Laser(pace=10)
    say(laser, do="load", job="one", moves=MOVES)
    say(laser, do="start")
    laser.tick(0.1)
    say(laser, do="pause")
    held = say(laser, do="status")["clock"]
    laser.tick(1.0)
    assert say(laser, do="status")["clock"] == held
    say(laser, do="resume")
    laser.tick(0.1)
    assert say(laser, do="status")["clock"] > held


def test_a_seeded_fault_stops_the_beam_at_the_same_moment_each_time() -> None:
    stops = []
    for _ in range(2):
        laser = Laser(pace=10)
        say(laser, do="load", job="one", moves=MOVES, fault="lid", seed=4)
        say(laser, do="start")
        for _ in range(300):
            laser.tick(0.02)
        status = say(laser, do="status")
        assert (status["state"], status["burning"]) == ("fault", False)
        assert "lid" in status["fault"]
        stops.append(status["clock"])
    assert stops[0] == stops[1]


@pytest.mark.parametrize("line", [b"", b"nonsense\n", b"[]\n", b'{"do": "dance"}\n', b'{"do": "load"}\n', b'{"do": "load", "job": 1, "moves": [{}]}\n'])
def test_what_is_not_understood_is_refused(line: bytes) -> None:
    assert answer(lambda m: reply(Laser(), m), line)["ok"] is False


def test_commands_out_of_turn_are_refused() -> None:
    laser = Laser()
    assert not say(laser, do="start")["ok"]
    say(laser, do="load", job="one", moves=MOVES)
    say(laser, do="start")
    assert "busy" in say(laser, do="load", job="two", moves=MOVES)["why"]


def test_its_time_agrees_with_the_planners_within_what_the_log_can_learn() -> None:
    from notchcore.geom.contours import contour_of
    from notchcore.measure.machine import Machine
    from notchcore.plan.motion import path_time, rapid_time

    machine = Machine(id="m", name="m")
    planned = (
        rapid_time((0, 0), (10, 10), machine=machine) + machine.pierce + path_time(contour_of(((10, 10), (60, 10), (60, 40), (10, 40))), 20, machine=machine)
    )
    assert job_seconds(MOVES) == pytest.approx(planned, rel=0.1)
