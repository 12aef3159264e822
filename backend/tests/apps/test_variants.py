"""Variants over HTTP: chosen, looked at beside each other, made together, taken elsewhere, and those of an earlier landing."""

from __future__ import annotations

from typing import Any

import pytest

from apps.designs.convert import DESIGN
from apps.designs.models import Project
from apps.sheets.models import Sheet, Stock
from notchcore.design.variants import chosen_now, with_choice
from tests.apps.conftest import Api
from tests.apps.test_build import save
from tests.apps.test_exchange import bring_in, decorated
from tests.apps.test_layouts import PACK

SIZES = {"small": {"width": 120.0}, "large": {"width": 240.0}}


@pytest.fixture
def box(api: Api) -> Project:
    """A box in two sizes, its base of two stocks, with a text in one of two letterings."""
    body = {"name": "Award box", "numbers": {"family": "box", "width": 120.0, "depth": 90.0, "height": 60.0}, "feel": "snug"}
    row = Project.objects.get(pk=api.ok("post", "projects", body)["id"])
    other = Stock.objects.exclude(pk=int(design(api, row)["stocks"]["base"])).filter(material=Stock.objects.first().material).first() or Stock.objects.last()
    assert other is not None

    def varied(d: dict[str, Any]) -> dict[str, Any]:
        sizes = [{"name": name, "sizes": d["numbers"] | changes} for name, changes in SIZES.items()]
        bases = [{"name": "same", "stocks": {"base": d["stocks"]["base"]}}, {"name": "other", "stocks": {"base": str(other.pk)}}]
        text = {"kind": "text", "id": "text-1", "panel": "front", "words": "BEANS"}
        letterings = [{"name": "engraved"}, {"name": "plain", "features": ["text-1"]}]
        return d | {
            "features": [text],
            "variations": [
                {"name": "Size", "alternatives": sizes, "chosen": "small"},
                {"name": "Base", "alternatives": bases, "chosen": "same"},
                {"name": "Lettering", "alternatives": letterings, "chosen": "engraved"},
            ],
        }

    save(api, row, varied)
    return row


def design(api: Api, row: Project) -> dict[str, Any]:
    found: dict[str, Any] = api.ok("get", f"projects/{row.pk}")["design"]
    return found


def choose(api: Api, row: Project, **choice: str) -> dict[str, Any]:
    base = api.ok("get", f"projects/{row.pk}")["revision"]
    found: dict[str, Any] = api.ok("post", f"projects/{row.pk}/variant", {"base": base, "choice": choice})
    return found["design"]


def test_all_variants_are_told_one_by_one_and_none_is_chosen_by_looking(api: Api, box: Project) -> None:
    told = api.ok("get", f"projects/{box.pk}/variants")
    assert told["now"] == {"Size": "small", "Base": "same", "Lettering": "engraved"}
    assert len(told["all"]) == 8
    rows = {tuple(c.values()): api.ok("post", f"projects/{box.pk}/variants/one", {"choice": c}) for c in told["all"]}
    assert design(api, box)["variations"][0]["chosen"] == "small"
    small, large, plain = rows["small", "same", "engraved"], rows["large", "same", "engraved"], rows["small", "same", "plain"]
    assert (small["pieces"], small["stops"], small["problem"]) == (5, 0, None)
    assert small["size"][0] == pytest.approx(120.0)
    assert large["price"] > small["price"] > 0
    assert large["minutes"] > small["minutes"] > plain["minutes"] > 0
    assert {len(r["sheets"]) for k, r in rows.items() if k[1] == "other"} == {2}
    # What the first sheet costs, in the share that a quick packing takes.
    need = api.ok("post", f"projects/{box.pk}/lay-out/need", PACK)[0]
    assert small["sheets"][0]["sheets"] == pytest.approx(need["sheets"])
    assert small["price"] == pytest.approx(need["sheets"] * Sheet.objects.get(pk=int(need["sheet"])).price)
    beyond = save_sizes(api, box, 5000.0)
    assert "problem" in beyond
    assert api("post", f"projects/{box.pk}/variants/one", {"choice": {"Size": "moon"}}).json()["problem"]


def save_sizes(api: Api, row: Project, width: float) -> dict[str, Any]:
    """Ask for an alternative that cannot be: it is told in its row, and the other rows stand."""
    wide = [{"name": name, "numbers": {"width": w}} for name, w in (("a", 120.0), ("b", width))]
    reply = save(api, row, lambda d: d | {"variations": [{"name": "Wide", "alternatives": wide, "chosen": "a"}]})
    assert reply.status_code == 200
    found: dict[str, Any] = api.ok("post", f"projects/{row.pk}/variants/one", {"choice": {"Wide": "b"}})
    assert found["problem"] is not None
    return found


def test_some_variants_become_a_project_of_their_own_with_its_drawings(api: Api, box: Project) -> None:
    decorated(api, box)
    wanted = [
        {"choice": {"Size": "small", "Base": "same", "Lettering": "plain"}, "count": 2},
        {"choice": {"Size": "large", "Base": "other", "Lettering": "engraved"}, "count": 1},
    ]
    made = api.ok("post", f"projects/{box.pk}/variants/together", {"name": "Both", "wanted": wanted})
    assert made["name"] == "Both"
    parts = api.ok("get", f"projects/{made['id']}/build")["parts"]
    assert sorted(p["copies"] for p in parts) == [1, 1, 1, 1, 2, 2, 2, 2, 2, 4]  # two backs of each are wanted
    mine, theirs = (DESIGN.validate_python(design(api, Project.objects.get(pk=pk))) for pk in (made["id"], box.pk))
    assert mine.drawing_ids()
    assert not {*mine.drawing_ids()} & {*theirs.drawing_ids()}
    assert api("post", f"projects/{box.pk}/variants/together", {"name": "None", "wanted": []}).status_code == 422
    assert api("post", f"projects/{box.pk}/variant", {"base": 2, "choice": {"Size": "moon"}}).status_code == 422


def test_what_is_chosen_is_undone_kept_and_taken_elsewhere(api: Api, box: Project) -> None:
    large = choose(api, box, Size="large", Lettering="plain")
    assert (large["numbers"]["width"], [v["chosen"] for v in large["variations"]]) == (240.0, ["large", "same", "plain"])
    base = api.ok("get", f"projects/{box.pk}")["revision"]
    assert api.ok("post", f"projects/{box.pk}/undo", {"base": base})["design"]["numbers"]["width"] == 120.0
    other = design(api, box)["variations"][1]["alternatives"][1]["stocks"]["base"]
    elsewhere = bring_in(api, api("get", f"projects/{box.pk}/bundle").content).json()
    assert design(api, Project.objects.get(pk=elsewhere["id"]))["variations"][1]["alternatives"][1]["stocks"]["base"] == other
    # A feature that is taken off is forgotten: one that gets its name later is there with every alternative.
    save(api, box, lambda d: d | {"features": []})
    assert [a["features"] for a in design(api, box)["variations"][2]["alternatives"]] == [[], []]


def test_variants_of_an_earlier_landing_are_alternatives_of_one_thing() -> None:
    numbers = {"family": "box", "width": 130.0, "depth": 90.0, "height": 60.0}
    then = {
        "numbers": numbers,
        "stocks": dict.fromkeys(("walls", "base", "dividers", "lid"), "1"),
        "left_out": ["text-1"],
        "variant": "small",
        "scale": 0.5,
        "features": [{"kind": "text", "id": "text-1", "panel": "front"}],
        "variants": {"small": {"numbers": numbers | {"width": 120.0}}, "large": {"numbers": numbers | {"width": 240.0}, "scale": 1.0}},
    }
    now = DESIGN.validate_python(then)
    assert chosen_now(now) == {"Variant": "small"}
    assert now.variations[0].alternative("small").features == ("text-1",)
    large = with_choice(now, {"Variant": "large"})
    assert (large.numbers.width, large.scale) == (240.0, 1.0)  # type: ignore[union-attr]
    assert with_choice(large, {"Variant": "small"}).numbers.width == 130.0  # type: ignore[union-attr]  # as it was when another was chosen
    without = DESIGN.validate_python({k: v for k, v in then.items() if k not in ("variants", "variant")})
    assert (chosen_now(without), without.variations[0].alternatives[0].features) == ({"Variant": "as it was"}, ("text-1",))
    assert DESIGN.validate_python({k: v for k, v in then.items() if k not in ("variants", "variant", "left_out")}).variations == ()
    whole = DESIGN.validate_python({"numbers": numbers, "stocks": then["stocks"], "items": [{"id": "inner", "label": "Inner", "design": then}]})
    assert chosen_now(whole) == {"Variant": "small"}
    assert whole.items[0].design.variations == now.variations
    nobody = DESIGN.validate_python(then | {"variant": ""})
    assert chosen_now(nobody) == {"Variant": ""}
