"""Whether what is said about fits comes true."""
# ruff: noqa: T201  (a table on the screen is what it is for)

SHOPS = 500
JOINTS = 40


def calibration() -> None:
    """Let seeded shops with a hidden truth measure, test and cut; print how often what was said came true."""
    from tests.simulation import Reliability, calibrate

    def line(name: str, kind: Reliability) -> None:
        cells = [f"{s / n:.2f} {c / n:.2f}" if n else "    -    " for s, c, n in zip(kind.said, kind.came, kind.count, strict=True)]
        print(
            f"  {name:<16} {'  '.join(cells)}   worst {kind.worst(least=1000):.3f}",
            flush=True,
        )

    print(f"\nCalibration: {SHOPS} seeded shops with hidden kerf, thickness and boundaries, {JOINTS} joints each")
    for material in ("plywood", "cast_acrylic", "grey_board"):
        found = calibrate(SHOPS, joints=JOINTS, material=material)
        print(
            f"  {material}: truth within the stated sd: thickness {found.thickness_in_sd:.1%}, kerf {found.kerf_in_sd:.1%}; "
            f"boundary between feels within its stated ± (nine of ten) {found.boundary_in_90:.1%}"
        )
        line("said came, tested", found.tested)
        line("before any test", found.untested)
    print()
