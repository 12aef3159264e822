"""Feels become boundaries: known answers, laws, and a shop with a hidden truth."""

from __future__ import annotations

import random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from notchcore.errors import MeasureError
from notchcore.ledger import Quantity, TermKind, Trust, single
from notchcore.measure.fit import DEFAULT_BOUNDARIES, KERF_WANDER, MACHINE_SD, Boundaries, Feel, Fits, chances_of, clearance_for, clearance_sd, pair_key
from notchcore.measure.gauge import Answer, clearance_at, contradictions, learned_boundaries
from notchcore.measure.kerf import Setup
from notchcore.measure.stock import StockEvidence, fits_of, stock_of
from tests.simulation import Shop, calibrate
from tests.strategies import TODAY, make_stock

KERF, T = 0.16, 3.08


def thick(value: float, sd: float = 0.0) -> Quantity:
    return single(TermKind.MEASURED, "t", value=value, sd=sd, trust=Trust.MEASURED)


def learned(answers: tuple[Answer, ...], *, machine_sd: float = 0.001, t_sd: float = 0.0) -> Boundaries:
    return learned_boundaries(
        answers, materials=("plywood", "plywood"), kerfs={"a": KERF}, thicknesses={"a": thick(T, t_sd)}, today=TODAY, machine_sd=machine_sd
    )


def strip(edges: tuple[float, ...], *, step: float = 0.05, count: int = 11, first: float = -0.23) -> tuple[Answer, ...]:
    """Return the answers of a hand without error, slots at clearances first, first + step ..."""
    found = []
    for i in range(count):
        c = first + i * step
        feel = next((f for f, edge in zip(Feel, edges, strict=False) if c > edge), Feel.WONT_GO)
        found.append(Answer(opening="a", entering="a", feel=feel, drawn=c + T - KERF, on=TODAY))
    return tuple(found)


def test_consistent_answers_put_each_boundary_midway_between_its_slots() -> None:
    # slots at -0.23, -0.18 ... 0.27; true boundaries 0.20, 0.06, -0.06, -0.17 lie between 0.17|0.22, 0.02|0.07, -0.08|-0.03, -0.18|-0.13
    found = learned(strip((0.20, 0.06, -0.06, -0.17)))
    assert found.edges() == pytest.approx((0.195, 0.045, -0.055, -0.155), abs=0.01)
    assert all(0 < sd < 0.025 for sd in found.sds)
    assert (found.trust, found.answers, found.anchored) == (Trust.MEASURED, 11, "a")
    assert found.source.text == "11 feels, gauge strip"


def test_answers_that_contradict_each_other_widen_the_result() -> None:
    good = strip((0.20, 0.06, -0.06, -0.17))
    muddled = list(good)
    for i, j in ((4, 6), (2, 5)):
        muddled[i], muddled[j] = (Answer(opening="a", entering="a", feel=good[k].feel, drawn=good[m].drawn, on=TODAY) for k, m in ((j, i), (i, j)))
    assert contradictions(good) == ()
    assert len(contradictions(tuple(muddled))) >= 2
    clean, doubtful = learned(good, machine_sd=0.02), learned(tuple(muddled), machine_sd=0.02)
    assert sum(doubtful.sds) > sum(clean.sds)


@settings(max_examples=20, deadline=None)
@given(st.integers(0, 10_000), st.randoms())
def test_learning_is_order_free_ordered_and_never_vaguer_than_the_default(seed: int, chance: random.Random) -> None:
    shop = Shop(seed)
    stock, _ = shop.known(gauge=False)
    answers = list(shop.gauge(stock))

    def of(some: list[Answer]) -> Boundaries:
        return learned_boundaries(tuple(some), materials=("plywood", "plywood"), kerfs={"a": stock.kerf.value}, thicknesses={"a": stock.thickness}, today=TODAY)

    first = of(answers)
    chance.shuffle(answers)
    assert of(answers) == first
    assert list(first.edges()) == sorted(first.edges(), reverse=True)
    default = DEFAULT_BOUNDARIES[next(iter(DEFAULT_BOUNDARIES))]
    assert all(sd <= before + 1e-9 for sd, before in zip(first.sds, default.sds, strict=True))


@given(st.floats(-1, 1), st.floats(0.001, 0.3), st.tuples(*[st.floats(0, 0.2)] * 4))
def test_chances_add_up_to_one_however_sure_the_boundaries_are(clearance: float, sd: float, sds: tuple[float, float, float, float]) -> None:
    boundaries = Boundaries(rattles=0.25, slides=0.08, snug=-0.05, mallet=-0.2, sds=sds)
    chances = chances_of(clearance=clearance, sd=sd, boundaries=boundaries)
    chances = [chances.rattles, chances.slides, chances.snug, chances.mallet, chances.wont_go]
    assert sum(chances) == pytest.approx(1)
    assert min(chances) >= -1e-12


def test_where_the_gauge_was_cut_in_the_same_stock_a_kerf_error_cancels() -> None:
    anchored = Boundaries(rattles=0.25, slides=0.08, snug=-0.05, mallet=-0.2, anchored="a")
    by = {o: clearance_sd(kerf_sd=0.05, thickness_sd=0.0, boundaries=anchored, opening=o) for o in ("a", "b", "")}
    assert by["a"] == pytest.approx((KERF_WANDER**2 + MACHINE_SD**2) ** 0.5)
    assert by["b"] == by[""] == pytest.approx((0.05**2 + MACHINE_SD**2) ** 0.5)
    assert clearance_sd(kerf_sd=0.05, thickness_sd=0.0, boundaries=anchored, opening="a", kerf_share=2.0) > by["b"]


def test_a_feel_moves_the_drawn_slot_not_the_kerf_it_is_reckoned_with() -> None:
    """The gauge says which drawn width is snug. A wrong kerf shifts clearance and correction alike: the file stays."""
    answers = strip((0.20, 0.06, -0.06, -0.17))
    drawn = []
    for kerf in (0.10, 0.16, 0.22):
        found = learned_boundaries(answers, materials=("plywood", "plywood"), kerfs={"a": kerf}, thicknesses={"a": thick(T)}, today=TODAY, machine_sd=0.001)
        drawn.append(T + clearance_for(Feel.SNUG, found).value - kerf)
    assert max(drawn) - min(drawn) < 0.03  # the defaults pull a little, within the step between two slots


def test_fits_hold_for_the_pair_on_its_machine_only() -> None:
    birch, walnut = make_stock("a", 3.08), make_stock("b", 3.12, material="solid_wood")
    here = Setup(machine="1", lens="x")
    feels = tuple(Answer(opening="a", entering="b", feel=Feel.SNUG, clearance=0.2, sd=0.02, on=TODAY, setup=here) for _ in range(6))
    evidence = {"a": StockEvidence(id="a", name="a", material="plywood", label=3.0, answers=feels)}
    fits = fits_of(evidence, {"a": birch, "b": walnut}, today=TODAY, setup=here)
    assert fits.between(birch.key, walnut.key) == fits.between(walnut.key, birch.key) == fits.known[pair_key("a", "b")]
    assert fits.between(birch.key, walnut.key).slides > 0.2 - 0.05  # what was thought to slide was felt to be snug
    assert fits.between(birch.key, birch.key).trust is Trust.DEFAULT
    elsewhere = fits_of(evidence, {"a": birch, "b": walnut}, today=TODAY, setup=Setup(machine="2", lens="x"))
    assert elsewhere.known == {}
    assert fits_of(evidence, {"a": birch}, today=TODAY, setup=here) == Fits()


def test_an_answer_is_of_a_drawn_opening_or_of_a_believed_clearance() -> None:
    assert clearance_at(Answer(opening="a", entering="a", feel=Feel.SNUG, drawn=2.95), kerf=0.16, thickness=3.08) == pytest.approx(0.03)
    for wrong in ({}, {"drawn": 3.0, "clearance": 0.1}):
        with pytest.raises(MeasureError):
            Answer(opening="a", entering="a", feel=Feel.SNUG, **wrong)  # type: ignore[arg-type]


@pytest.mark.parametrize("material", ["plywood", "cast_acrylic", "grey_board"])
def test_a_hidden_truth_is_recovered_and_chances_come_true(material: str) -> None:
    """A small run of what ./board bench prints for 500 shops."""
    found = calibrate(80, joints=60, material=material)
    assert found.thickness_in_sd >= 0.85
    assert found.kerf_in_sd >= 0.9
    assert found.boundary_in_90 >= 0.85
    assert found.tested.worst(least=1000) < 0.06
    assert found.untested.worst(least=1000) < 0.12  # 80 shops share 80 kerfs: a coarse test


def test_predictions_before_any_test_are_wide() -> None:
    blind, known = (
        stock_of(e, today=TODAY)
        for e in (
            StockEvidence(id="a", name="a", material="plywood", label=3.0),
            StockEvidence(id="a", name="a", material="plywood", label=3.0, readings=Shop(1).readings(5), kerf_tests=Shop(1).kerf_tests()),
        )
    )
    boundaries = DEFAULT_BOUNDARIES[next(iter(DEFAULT_BOUNDARIES))]
    sds = [clearance_sd(kerf_sd=s.kerf.sd, thickness_sd=s.thickness.sd, boundaries=boundaries) for s in (blind, known)]
    assert sds[0] > 0.09
    assert sds[1] < 0.06
    chances = chances_of(clearance=clearance_for(Feel.SNUG, boundaries).value, sd=sds[0], boundaries=boundaries)
    assert 0.3 < chances.snug < 0.6
