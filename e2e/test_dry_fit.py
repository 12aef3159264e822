"""Dry fit by its findings alone, a trial in scrap and back, and a change after half of the pieces were cut."""

from __future__ import annotations

import re
from dataclasses import replace

from playwright.sync_api import Locator, Page, expect

from apps.accounts.models import Member
from apps.designs.convert import design_of
from apps.designs.models import Project, Revision
from apps.designs.services import save_design
from notchcore.design.design import Design
from notchcore.design.edits import CopyOf, PanelEdit, Split
from notchcore.design.features.values import Hole, Text
from notchcore.design.joints.choice import MeetingChoice
from processes import Worker
from steps import field, station

DRAWER = "Seed packet drawer"
HELD_BY = (
    "column-1+front",
    "back+column-1",
    "base+column-1",
    "column-1+row-1",
    "column-1+divider-1",
)


def drawer() -> Project:
    return Project.objects.select_related("machine", "shop").get(name=DRAWER)


def head() -> Design:
    row = drawer()
    return design_of(Revision.objects.get(project=row, number=row.head))


def plant(change: Design) -> None:
    row = drawer()
    member = Member.objects.filter(shop=row.shop).order_by("pk").first()
    assert member is not None
    save_design(
        project_id=row.pk,
        member=member,
        base=row.head,
        design=change,
        label="Seven mistakes",
    )


def tab(page: Page, name: str) -> None:
    page.get_by_role("radiogroup", name="Show").get_by_text(name, exact=True).click()


def findings(page: Page) -> Locator:
    return page.locator("[data-code]:has(.btn.main)")


def test_seven_planted_mistakes_are_mended_by_following_the_findings(
    page: Page,
) -> None:
    d = head()
    plant(
        replace(
            d,
            choices={**d.choices, "front+moon": MeetingChoice(count=3)},
            edits={"left": PanelEdit(helper=True)},
            features=(
                Text(
                    id="small",
                    panel="right",
                    cap=1.4,
                    words="SEED FAIR",
                    x=20.0,
                    y=12.0,
                ),
                Text(id="inside", panel="back", cap=8.0, words="MOSSGATE", x=0.0, y=0.0),
                Hole(id="lost", panel="moon"),
            ),
            added=(CopyOf(id="twice", label="Left side again", of="left", move=(1.0, 0.0, 0.0)),),
            splits=(Split(panel="base", at=900.0),),
        )
    )
    page.get_by_role("button", name=DRAWER).click()
    station(page, "Dry fit")
    expect(page.get_by_role("heading", name=re.compile("to fix"))).to_be_visible()
    codes = set(findings(page).evaluate_all("some => some.map(x => x.dataset.code)"))
    assert {
        "orphan_choice",
        "helper_holds",
        "text_too_small",
        "feature_lost",
        "split_outside",
        "wrong_face",
    } <= codes
    planted, mended = drawer().head, 0
    for _ in range(14):
        expect(page.get_by_role("heading", name=re.compile("to fix|goes together|It fits"))).to_be_visible()
        if not findings(page).count():
            break
        there = findings(page).count()
        findings(page).first.locator(".btn.main").first.click()
        mended += 1
        expect(page.get_by_test_id("revision")).to_contain_text(f"revision {planted + mended} · saved")
        expect(findings(page)).not_to_have_count(there)  # the dry fit of the new revision is there
    expect(page.get_by_role("heading", name="It fits")).to_be_visible()
    assert mended >= 7
    assert drawer().head == planted + mended  # each was one step
    page.get_by_role("button", name="Undo").click()  # and can be taken back
    expect(page.get_by_role("heading", name="It fits")).to_be_hidden()


def test_a_trial_in_scrap_is_noted_and_the_true_stocks_come_back(page: Page) -> None:
    before = head()
    page.get_by_role("button", name=DRAWER).click()
    station(page, "Dry fit")
    tab(page, "Trial")
    page.get_by_label("Cut it from").select_option(label="Grey board 2")
    expect(page.get_by_text("Everything is cut from")).to_be_visible()
    assert head().prototype is not None
    note = page.get_by_role("form", name="A note on the trial")
    note.get_by_label("About").select_option(label="Front")
    note.get_by_label("Feel").select_option(label="snug")
    note.get_by_label("In words").fill("Thumb notch 4 mm lower")
    page.get_by_role("button", name="Write it down").click()
    expect(page.get_by_text("Thumb notch 4 mm lower")).to_be_visible()
    page.get_by_role("button", name="Back to the true stocks").click()
    expect(page.get_by_label("Cut it from")).to_be_visible()
    assert head() == before
    page.reload()
    tab(page, "Trial")
    expect(page.get_by_text("Thumb notch 4 mm lower")).to_be_visible()


def test_a_change_after_half_was_cut_says_what_is_still_good_and_packs_only_the_rest(page: Page, worker: Worker) -> None:
    page.get_by_role("button", name=DRAWER).click()
    station(page, "Dry fit")
    tab(page, "Pieces")
    expect(page.get_by_role("heading", name="still good")).to_be_visible()
    good = page.locator("p.row", has_text="1 of 1").count()
    assert good >= 3
    station(page, "Build")
    field(page, "Rows, front to back", "1")
    expect(page.get_by_text("9 parts")).to_be_visible()
    station(page, "Dry fit")
    tab(page, "Pieces")
    expect(page.get_by_role("heading", name="cut again")).to_be_visible()
    still = page.locator("p.row", has_text="1 of 1").count()
    assert 0 < still < good
    missing = page.locator("p.row", has_text="0 of 1").count()
    page.get_by_label("Now, against").select_option(index=1)
    expect(page.get_by_text(re.compile("parts are others now"))).to_be_visible()
    expect(page.locator("path.edge").first).to_be_attached()
    page.get_by_role("button", name="Pack only what is missing").click()
    expect(page.get_by_text(f"{missing} parts placed")).to_be_visible()
