"""Names of parts, copies, paths and meetings are read as they were written."""

from hypothesis import given
from hypothesis import strategies as st

from notchcore.ids import CopyId, MeetingId, PathId, PieceId, part_of_path

panels = st.from_regex(r"[a-z]{1,6}(-[0-9]{1,2})?(\.[1-9])?", fullmatch=True)  # those of some families end in a number
whole = st.integers(0, 120)


@given(panels, panels, whole, whole, st.sampled_from(["", "1", "12", "socket-2"]))
def test_what_is_written_is_read(a: str, b: str, piece: int, copy: int, which: str) -> None:
    for name in (PieceId(a, piece), CopyId(a, copy), PathId(CopyId(a, copy), f"outer{piece}"), MeetingId(a, b, which)):
        assert type(name).parse(str(name)) == name
    assert part_of_path(str(PathId(CopyId(a, copy), "number"))) == a
    assert part_of_path("") == part_of_path("rapid") == ""
