"""What must hold between a design and what the second workshop made of its files. Each law gives the places where it does not.

1  the pieces that come free are the wanted ones, each true to its finished part, none cut into
2  what a part shows is burned on it once, at its place, on its face, and nothing beside it
3  put together, no two pieces want the same place, and joints have the widths of their ledgers
5  inner before outer, what is burned before what is cut, marks before parts come free
8  all formats of a run are the same lines, as long as the plan says, and nothing of no length
"""

from __future__ import annotations

from shapely.geometry import Polygon

from tests.workshop.laws.faces import check_faces
from tests.workshop.laws.files import check_formats, check_order
from tests.workshop.laws.job import Job, Lying, Violation
from tests.workshop.laws.joints import check_joints, check_lain_in, check_rooms, check_together
from tests.workshop.laws.lay import as_pass
from tests.workshop.laws.pieces import check_counts, pieces_of


def judge(job: Job) -> list[Violation]:
    """Return where a job is not what was designed."""
    made: dict[int, list[tuple[Lying, Polygon | None]]] = {}
    for number in sorted({r.number for r in job.runs}):
        runs = [r for r in job.runs if r.number == number]
        passes = [as_pass(job, r, runs) for r in runs]
        for run, one in zip(runs, passes, strict=True):
            check_order(job, run, one)
        made[number] = pieces_of(job, number, runs[0], passes)
        check_faces(job, number, runs, passes)
    check_counts(job, made)
    check_joints(job, made)
    check_lain_in(job, made)
    check_together(job)
    check_rooms(job)
    for run in job.runs:
        check_formats(job, run)
    return job.found
