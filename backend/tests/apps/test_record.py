"""The record of evidence under anything people do: nothing is overwritten, nothing is lost, and the value now follows from what stands."""

from __future__ import annotations

import random
import statistics
from collections.abc import Callable
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from apps.accounts.models import Role
from apps.cards.models import Card, CardResult
from apps.designs.models import Project
from apps.sheets import convert, evidence
from apps.sheets.models import Evidence, Feel, KerfTest, Machine, Reading, Stock, StockSettings
from notchcore.errors import MeasureError
from notchcore.measure.kerf import Setup, pooled_kerf
from tests.apps.conftest import Api

KINDS: tuple[type[Evidence], ...] = (Reading, KerfTest, Feel, StockSettings, CardResult)
FEELS = ("rattles", "slides", "snug", "mallet", "wont_go")
FOUND = ("thickness_mm", "drawn_mm", "measured_mm", "below_mm", "count", "kind", "feel", "clearance_mm", "values", "value", "cell", "on", "by", "borrowed")


def record() -> dict[tuple[str, int], dict[str, Any]]:
    """Return everything that was ever found, without whether it counts."""
    return {(m.__name__, r.pk): {f: getattr(r, f) for f in FOUND if hasattr(r, f)} for m in KINDS for r in m._default_manager.all()}


class Shop:
    """People at one rack, doing what comes to their minds."""

    def __init__(self, api: Api, chance: random.Random) -> None:
        self.api, self.chance = api, chance
        self.stock = Stock.objects.get(name="Walnut 3")
        self.machine = Machine.objects.get(name="Alder desk laser")
        self.card = api.ok("post", f"stocks/{self.stock.pk}/cards", {"kind": "gauge"})

    def read(self) -> None:
        self.api.ok("post", f"stocks/{self.stock.pk}/readings", {"thickness_mm": round(self.chance.uniform(2.9, 3.3), 2)})

    def paste(self) -> None:
        text = "\n".join(f"{self.chance.uniform(2.9, 3.3):.2f}" for _ in range(self.chance.randint(1, 4)))
        self.api.ok("post", f"stocks/{self.stock.pk}/readings/pasted", {"text": text})

    def test_kerf(self) -> None:
        body = {"kind": "gap", "drawn_mm": 5, "measured_mm": round(5 + self.chance.uniform(0.1, 0.3), 2)}
        self.api.ok("post", f"stocks/{self.stock.pk}/kerf-tests", body)

    def settle(self) -> None:
        beam = {"power": self.chance.randint(10, 100), "speed": self.chance.randint(5, 50)}
        self.api.ok(
            "put", f"stocks/{self.stock.pk}/settings", {"settings": {"cut": beam, "score": beam, "engrave": beam}, "tried": ["cut", "score", "engrave"]}
        )

    def feel(self) -> None:
        places = self.chance.sample(range(11), self.chance.randint(1, 4))
        entries = [{"cell": f"slot{i}", "value": self.chance.choice([None, *({"feel": f} for f in FEELS)])} for i in places]
        self.api.ok("put", f"cards/{self.card['id']}/results", {"entries": entries})

    def change_lens(self) -> None:
        self.api.ok("patch", f"machines/{self.machine.pk}", {"lens": self.chance.choice(["two_inch", "four_inch"])})

    def turn(self) -> None:
        path, model = self.chance.choice([("readings", Reading), ("kerf-tests", KerfTest), ("feels", Feel), ("settings", StockSettings)])
        rows = list(model._default_manager.filter(stock=self.stock).order_by("pk"))
        if rows:
            row = self.chance.choice(rows)
            self.api.ok("put", f"{path}/{row.pk}", {"withdrawn": not row.withdrawn})

    def slip(self) -> None:
        """Somebody types nonsense: it is refused and changes nothing."""
        path, body = self.chance.choice(
            [
                (f"stocks/{self.stock.pk}/readings", {"thickness_mm": -1}),
                (f"stocks/{self.stock.pk}/readings/pasted", {"text": "3.1\nthick"}),
                (f"stocks/{self.stock.pk}/kerf-tests", {"kind": "gap", "drawn_mm": 5.3, "measured_mm": 5}),
            ]
        )
        before = record()
        assert self.api("post", path, body).status_code == 422
        assert record() == before


@pytest.mark.parametrize("seed", range(4))
def test_nothing_is_overwritten_whatever_people_do(api: Api, drawer: Project, seed: int) -> None:
    chance = random.Random(seed)
    shop = Shop(api, chance)
    acts: list[Callable[[], None]] = [
        shop.read,
        shop.paste,
        shop.test_kerf,
        shop.settle,
        shop.feel,
        shop.feel,
        shop.change_lens,
        shop.turn,
        shop.turn,
        shop.slip,
    ]
    before = record()
    for _ in range(30):
        chance.choice(acts)()
        now = record()
        assert {k: now.get(k) for k in before} == before  # every row that ever was is there as it was found
        before = now
    places = list(CardResult.objects.filter(card=shop.card["id"], withdrawn=False).values_list("cell", flat=True))
    assert len(places) == len(set(places))
    value_follows_from_what_stands(api, shop)


def value_follows_from_what_stands(api: Api, shop: Shop) -> None:
    """Reckon thickness, kerf and settings again from the rows alone, and compare with what the screen is told."""
    told = api.ok("get", f"stocks/{shop.stock.pk}")
    readings = Reading.objects.filter(stock=shop.stock, withdrawn=False).values_list("thickness_mm", flat=True)
    if readings:
        assert told["value"]["thickness"]["value"] == pytest.approx(statistics.fmean(readings))
    lens = convert.machine_of(Machine.objects.get(pk=shop.machine.pk)).lens
    newest = StockSettings.objects.filter(stock=shop.stock, withdrawn=False, lens=lens).order_by("-pk").first()
    if newest is not None:
        assert told["settings"]["cut"]["power"] == newest.values["cut"]["power"]
    rows = KerfTest.objects.filter(stock=shop.stock, withdrawn=False, lens=lens).order_by("pk")
    setup = Setup(machine=str(shop.machine.pk), lens=lens, settings=convert.SETTINGS.validate_python(newest.values).cut.words if newest else "")
    expected = pooled_kerf(
        material_id="solid_wood",
        thickness=told["value"]["thickness"]["value"],
        tests=tuple(convert.kerf_test_of(t) for t in rows),
        today=rows[0].on.isoformat() if rows else "2026-11-25",
        setup=setup,
    )
    assert told["value"]["kerf"]["value"] == pytest.approx(expected.value, abs=1e-6)
    standing = Feel.objects.filter(stock=shop.stock, entering=shop.stock, withdrawn=False, lens=lens).count()
    itself = next(f for f in told["fits"] if f["mate"] == str(shop.stock.pk))
    assert itself["boundaries"]["answers"] == standing


def test_what_one_shop_finds_never_shows_in_another(api: Api, someone: Callable[..., Api], drawer: Project) -> None:
    stranger = someone(Role.OWNER, elsewhere=True)
    card = Card.objects.get(kind="gauge")
    addresses = [
        ("get", f"stocks/{card.stock_id}", None),
        ("get", f"stocks/{card.stock_id}/cards", None),
        ("get", f"cards/{card.pk}", None),
        ("put", f"cards/{card.pk}/results", {"entries": [{"cell": "slot1", "value": None}]}),
        ("post", f"cards/{card.pk}/settings", {}),
        ("put", f"feels/{Feel.objects.order_by('pk')[0].pk}", {"withdrawn": True}),
        ("put", f"settings/{StockSettings.objects.order_by('pk')[0].pk}", {"withdrawn": True}),
        ("delete", f"stocks/{card.stock_id}", None),
        ("post", f"runs/{drawer.runs.get().pk}/learn", None),
        ("patch", f"stocks/{card.stock_id}", {"name": "Mine"}),
    ]
    before = record()
    for method, path, body in addresses:
        assert stranger(method, path, body).status_code in (404, 422), path
    assert record() == before
    assert [len(stranger.client.get(f"/api/exchange/{w}.csv").content.splitlines()) for w in ("stocks", "readings", "feels")] == [1, 1, 1]


@settings(max_examples=60, deadline=None)
@given(
    st.lists(st.integers(5, 5000).map(lambda v: v / 100), min_size=1, max_size=30),
    st.sampled_from(["\n", "\t", ";", " ; ", "\r\n", "\n\n"]),
    st.sampled_from(["", "thickness\n", "Thickness in the middle\n"]),
    st.booleans(),
)
def test_any_copied_list_is_read_back_as_it_was(values: list[float], between: str, head: str, comma: bool) -> None:
    cells = [f"{v:.2f}".replace(".", ",") if comma else f"{v:.2f}" for v in values]
    assert evidence.lengths_in(head + between.join(cells), "mm") == pytest.approx(values)
    inches = evidence.lengths_in(head + between.join(cells), "in")
    assert inches == pytest.approx([v * 25.4 for v in values])


@settings(max_examples=40, deadline=None)
@given(st.lists(st.sampled_from(["3.1", "soft", "", "3 kg", "1/0"]), min_size=1, max_size=8))
def test_a_list_with_a_cell_that_is_no_length_names_its_line(cells: list[str]) -> None:
    wrong = [i for i, c in enumerate(cells, start=1) if c in ("soft", "3 kg", "1/0")]
    first = next((i for i in wrong if i > 1 or any(c.isdigit() for c in cells[0])), None)  # a first line of words is a head
    if first is None:
        assert evidence.lengths_in("\n".join(cells), "mm") == pytest.approx([3.1] * cells.count("3.1"))
    else:
        with pytest.raises(MeasureError, match=f"Line {first}:"):
            evidence.lengths_in("\n".join(cells), "mm")
