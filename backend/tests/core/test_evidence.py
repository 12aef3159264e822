"""Pooling, borrowed and odd evidence, hazards, engraving, contrast, scale: known answers by hand, and laws."""

from __future__ import annotations

import math
import random
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from notchcore.errors import MeasureError, ValueOutside
from notchcore.ledger import Trust
from notchcore.measure.contrast import difference, lab_of, neighbours
from notchcore.measure.engraving import DepthRead, SquareSeen, best_square, depth_finding, depth_per_pass, passes_for
from notchcore.measure.hazards import SUBSTANCES, Confirmation, Substance, Verdict, substances_of
from notchcore.measure.kerf import BORROWED_SD, OTHER_SETTINGS_SD, READING_SD, KerfTest, KerfTestKind, Setup, kerf_findings, kerf_of, pooled_kerf, taper_deg
from notchcore.measure.machine import Convention, Lens, Machine
from notchcore.measure.materials import MATERIALS
from notchcore.measure.pooling import Weighed, odd_ones, pool
from notchcore.measure.scale import model_of, real_of, stand_ins
from notchcore.measure.stock import StockEvidence, stock_of
from notchcore.measure.thickness import Reading, effective_thickness, spread_of
from notchcore.typed import parse_length
from notchcore.units import MM_PER
from tests.strategies import TODAY

dates = st.sampled_from([TODAY, "2026-08-01", "2025-11-24", ""])
weighed = st.builds(Weighed, value=st.floats(0.05, 0.5), sd=st.floats(0.005, 0.1), on=dates)


@given(st.lists(weighed, min_size=1, max_size=8), weighed, st.randoms())
def test_pooling_is_order_free_and_one_more_finding_never_widens_the_mean(found: list[Weighed], more: Weighed, chance: random.Random) -> None:
    before = pool(found, today=TODAY)
    mixed = [*found]
    chance.shuffle(mixed)
    other = pool(mixed, today=TODAY)
    assert (other.value, other.mean_sd, other.scatter) == pytest.approx((before.value, before.mean_sd, before.scatter), abs=1e-9)
    after = pool([*found, more], today=TODAY)
    assert after.mean_sd <= before.mean_sd * (1 + 1e-12)
    assert min(f.value for f in found) - 1e-9 <= before.value <= max(f.value for f in found) + 1e-9


@given(st.lists(st.floats(1.0, 6.0), min_size=1, max_size=20), st.floats(1.0, 6.0))
def test_one_more_reading_never_widens_the_interval_of_the_mean(values: list[float], more: float) -> None:
    material = MATERIALS["plywood"]
    assert spread_of([*values, more], material).mean_sd < spread_of(values, material).mean_sd


def test_pooling_by_hand() -> None:
    # weights 1/0.01^2 and half of 1/0.02^2 (180 days old): 10000 and 1250
    two = pool([Weighed(value=0.16, sd=0.01, on=TODAY), Weighed(value=0.20, sd=0.02, on="2026-05-28")], today=TODAY)
    assert two.value == pytest.approx((10000 * 0.16 + 1250 * 0.20) / 11250)
    assert two.mean_sd == pytest.approx(1 / math.sqrt(11250))
    # age does not enter the scatter: weights 10000 and 2500, middle 0.168, Q = 10000 * 0.008^2 + 2500 * 0.032^2 = 3.2
    # (Q - 1) / (12500 - (10000^2 + 2500^2) / 12500) = 2.2 / 4000
    assert two.scatter == pytest.approx(math.sqrt(2.2 / 4000), rel=1e-4)


def test_tests_that_contradict_each_other_look_no_surer_when_they_are_old() -> None:
    def apart(on: str) -> float:
        return pool([Weighed(value=0.10, sd=0.02, on=on), Weighed(value=0.25, sd=0.02, on=on)], today=TODAY).scatter

    assert apart("2024-11-24") == pytest.approx(apart(TODAY))


def gap(kerf: float, **more: object) -> KerfTest:
    return KerfTest(kind=KerfTestKind.GAP, drawn=5.0, measured=5.0 + kerf, on=TODAY, **more)  # type: ignore[arg-type]


def test_a_kerf_belongs_to_a_machine_and_a_lens() -> None:
    here, other_lens = Setup(machine="1", lens="two_inch"), Setup(machine="1", lens="four_inch")
    tests = (gap(0.16, setup=here), gap(0.30, setup=other_lens), gap(0.5, setup=Setup(machine="2", lens="two_inch")))
    for setup, value in ((here, 0.16), (other_lens, 0.30)):
        assert pooled_kerf(material_id="plywood", thickness=3, tests=tests, today=TODAY, setup=setup).value == pytest.approx(value)
    unknown = pooled_kerf(material_id="plywood", thickness=3, tests=tests, today=TODAY, setup=Setup(machine="3", lens="x"))
    assert unknown.terms[0].trust is Trust.DEFAULT


def test_other_settings_and_borrowed_tests_count_less() -> None:
    now = Setup(machine="1", lens="a", settings="60 %")
    for other, extra in ((gap(0.20, setup=replace(now, settings="80 %")), OTHER_SETTINGS_SD), (gap(0.20, setup=now, borrowed="batch 9"), BORROWED_SD)):
        pooled = pooled_kerf(material_id="plywood", thickness=3, tests=(gap(0.16, setup=now), other), today=TODAY, setup=now)
        own, far = READING_SD**-2, (READING_SD**2 + extra**2) ** -1
        assert pooled.value == pytest.approx((own * 0.16 + far * 0.20) / (own + far))
    lent = pooled_kerf(material_id="plywood", thickness=3, tests=(gap(0.2, setup=now, borrowed="batch 9"),), today=TODAY, setup=now)
    assert (lent.terms[0].trust, lent.terms[0].source.text) == (Trust.DEFAULT, "borrowed from batch 9")


def test_a_cut_measured_on_both_faces_shows_its_taper() -> None:
    test = KerfTest(kind=KerfTestKind.GAP, drawn=5, measured=5.20, below=5.12)
    assert kerf_of(test) == pytest.approx(0.16)
    # (0.20 - 0.12) / (2 * 4 mm) = 0.01
    assert taper_deg((test,), 4.0) == pytest.approx(math.degrees(math.atan(0.01)))
    assert taper_deg((gap(0.16),), 4.0) is None


def test_an_odd_one_is_shown_and_still_counted() -> None:
    values = [3.01, 3.02, 3.0, 3.6, 3.01]
    assert odd_ones(values, sd=0.05) == (3,)
    quantity, findings = effective_thickness(material_id="plywood", label=3.0, readings=tuple(Reading(thickness=v) for v in values))
    assert quantity.value == pytest.approx(sum(values) / 5)
    assert "reading_odd" in {f.code for f in findings}
    tests = tuple(gap(k) for k in (0.15, 0.16, 0.16, 0.42))
    assert [f.facts["test"] for f in kerf_findings(tests, Setup())] == [3]
    assert kerf_findings(tests[:3], Setup()) == ()


@given(st.lists(st.floats(0.1, 0.3), min_size=3, max_size=9), st.floats(0.02, 0.1))
def test_no_value_within_three_sigmas_of_all_others_is_odd(values: list[float], sd: float) -> None:
    if max(values) - min(values) < 3 * sd:
        assert odd_ones(values, sd=sd) == ()


def test_borrowed_readings_stand_in_until_there_is_one_of_its_own() -> None:
    lent = tuple(Reading(thickness=t, borrowed="Birch ply 3, batch 9") for t in (2.93, 2.95, 2.94))
    quantity, findings = effective_thickness(material_id="plywood", label=3.0, readings=lent)
    assert (quantity.value, quantity.terms[0].trust) == (pytest.approx(2.94), Trust.DEFAULT)
    assert "borrowed from Birch ply 3, batch 9" in quantity.terms[0].source.text
    assert findings[0].code == "thickness_guess"
    own, _ = effective_thickness(material_id="plywood", label=3.0, readings=(*lent, Reading(thickness=3.1)))
    assert (own.value, own.terms[0].trust) == (pytest.approx(3.1), Trust.MEASURED)


@pytest.mark.parametrize("substance", SUBSTANCES.values(), ids=list(SUBSTANCES))
def test_what_must_not_be_cut_says_so_and_what_needs_data_waits_for_a_name(substance: Substance) -> None:
    evidence = StockEvidence(id="x", name="Sheet", material=substance.material, label=3.0, substance=substance.id)
    confirmed = replace(evidence, confirmed=Confirmation(by="alder", on=TODAY, data="data sheet 7"))
    hazards = [stock_of(e, today=TODAY).hazard for e in (evidence, confirmed)]
    expected = {Verdict.ALLOWED: (False, False), Verdict.NEEDS_DATA: (True, False), Verdict.FORBIDDEN: (True, True)}[substance.verdict]
    assert tuple(h is not None for h in hazards) == expected


def test_the_forbidden_ones_of_the_rules_are_all_there() -> None:
    forbidden = {s.label for s in SUBSTANCES.values() if s.verdict is Verdict.FORBIDDEN}
    assert {"PVC, vinyl", "not known", "chrome tanned", "carbon fibre", "glass fibre", "halogenated or flame retarded"} <= forbidden
    asks = {s.label for s in SUBSTANCES.values() if s.verdict is Verdict.NEEDS_DATA}
    assert {"ABS", "polycarbonate", "polystyrene", "painted or coated"} <= asks
    assert all(substances_of(f) for f in MATERIALS)
    with pytest.raises(MeasureError, match="made of"):
        StockEvidence(id="x", name="x", material="plywood", label=3, substance="plastic.pvc")


def test_depth_of_a_pass_by_hand() -> None:
    # through the origin: (1*0.2 + 2*0.42 + 3*0.6) / (1 + 4 + 9) = 2.84 / 14
    depth = depth_per_pass([DepthRead(passes=1, depth=0.2), DepthRead(passes=2, depth=0.42), DepthRead(passes=3, depth=0.6)])
    assert depth.per_pass == pytest.approx(2.84 / 14)
    assert [passes_for(d, 0.2) for d in (0.1, 0.2, 0.21, 0.6)] == [1, 1, 2, 3]
    assert depth_finding(1.81, 3.0) is not None
    assert depth_finding(1.8, 3.0) is None
    with pytest.raises(MeasureError):
        depth_per_pass([DepthRead(passes=1, depth=0)])


@given(st.lists(st.tuples(st.integers(1, 12), st.floats(0.01, 0.5)), min_size=1, max_size=6), st.floats(0.01, 1.0))
def test_passes_reach_the_depth_and_one_less_does_not(squares: list[tuple[int, float]], depth: float) -> None:
    per_pass = depth_per_pass([DepthRead(passes=n, depth=n * d) for n, d in squares]).per_pass
    passes = passes_for(depth, per_pass)
    assert passes * per_pass >= depth - 1e-6
    assert passes == 1 or (passes - 1) * per_pass < depth


def test_the_best_square_is_the_fastest_clean_one_then_the_weakest() -> None:
    seen = [
        SquareSeen(power=80, speed=20, through=True, char=3),
        SquareSeen(power=70, speed=14, through=True, char=1),
        SquareSeen(power=60, speed=14, through=True, char=1),
        SquareSeen(power=60, speed=17, through=False),
    ]
    assert best_square(seen) == seen[2]
    assert best_square(seen, accepted_char=3) == seen[0]
    with pytest.raises(MeasureError, match="burnt more"):
        best_square(seen[:1])
    with pytest.raises(MeasureError, match="No square cut through"):
        best_square(seen[3:])


# published check values of CIEDE2000 (docs/sources.md): they cover every branch of the formula
CHECKS = [
    ((50, 2.6772, -79.7751), (50, 0, -82.7485), 2.0425),
    ((50, 3.1571, -77.2803), (50, 0, -82.7485), 2.8615),
    ((50, -1.3802, -84.2814), (50, 0, -82.7485), 1.0000),
    ((50, 0, 0), (50, -1, 2), 2.3669),
    ((50, 2.49, -0.001), (50, -2.49, 0.0009), 7.1792),
    ((50, 2.49, -0.001), (50, -2.49, 0.0011), 7.2195),
    ((50, -0.001, 2.49), (50, 0.0009, -2.49), 4.8045),
    ((50, 2.5, 0), (50, 0, -2.5), 4.3065),
    ((50, 2.5, 0), (73, 25, -18), 27.1492),
    ((50, 2.5, 0), (58, 24, 15), 19.4535),
    ((60.2574, -34.0099, 36.2677), (60.4626, -34.1751, 39.4387), 1.2644),
    ((63.0109, -31.0961, -5.8663), (62.8187, -29.7946, -4.0864), 1.2630),
    ((22.7233, 20.0904, -46.694), (23.0331, 14.973, -42.5619), 2.0373),
    ((90.8027, -2.0831, 1.441), (91.1528, -1.6435, 0.0447), 1.4441),
    ((2.0776, 0.0795, -1.135), (0.9033, -0.0636, -0.5514), 0.9082),
]


@pytest.mark.parametrize(("one", "two", "expected"), CHECKS)
def test_colour_difference_agrees_with_the_published_values(one: tuple[float, ...], two: tuple[float, ...], expected: float) -> None:
    assert difference(one, two) == pytest.approx(expected, abs=5e-5)  # type: ignore[arg-type]
    assert difference(two, one) == pytest.approx(expected, abs=5e-5)  # type: ignore[arg-type]


def test_stocks_that_look_alike_are_told_first() -> None:
    pairs = neighbours({"birch12": lab_of("#e9d2a6"), "birch9": lab_of("#e4c995"), "walnut": lab_of("#8a5638")})
    assert ({pairs[0].a, pairs[0].b}, pairs[0].hard_to_tell) == ({"birch12", "birch9"}, True)
    assert not pairs[-1].hard_to_tell
    assert lab_of("#ffffff") == pytest.approx((100, 0, 0), abs=0.02)
    assert lab_of("#000000") == pytest.approx((0, 0, 0), abs=1e-9)


@given(st.floats(0.1, 2_000), st.floats(0.5, 500), st.sampled_from(["mm", "in", "thou"]))
def test_scale_and_units_go_there_and_back(length: float, n: float, unit: str) -> None:
    assert real_of(model_of(length, n), n) == pytest.approx(length, rel=1e-12)
    assert parse_length(f"{length / MM_PER[unit]:.14f}", unit=unit) == pytest.approx(length, abs=1e-9)


def test_the_nearest_stock_stands_for_a_real_thickness() -> None:
    # a 50 mm plank in 1:24 is 2.08 mm: grey board 2.02 stands for 48.5, birch 3.08 for 73.9
    best = stand_ins(50.0, 24, stocks=[("birch", 3.08), ("grey", 2.02)])
    assert [(s.stock, round(s.real, 2), round(s.off, 2)) for s in best] == [("grey", 48.48, -1.52), ("birch", 73.92, 23.92)]
    with pytest.raises(ValueOutside):
        model_of(10, 0)


def test_a_machine_says_what_it_cannot_be() -> None:
    with pytest.raises(MeasureError, match="which lens"):
        Machine(id="m", name="m", lenses=(Lens(id="a", name="a"),), lens="b")
    with pytest.raises(MeasureError, match="share a layer"):
        Machine(id="m", name="m", score=Convention(colour="#112233", line_width=0.1, layer="4-outer-cut"))
    with pytest.raises(MeasureError, match="not a colour"):
        Convention(colour="red", line_width=0.1, layer="x")
