"""How long requests take, against a warm server process."""

from __future__ import annotations

import time
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

from timing import row, timed

if TYPE_CHECKING:
    from playwright.sync_api import APIRequestContext, Page

RIBS = ((12, 18, "300 ms"), (40, 40, "1.5 s"))


@dataclass
class Desk:
    """Somebody signed in: the page in front of them, and what asks the server without it."""

    page: Page
    requests: APIRequestContext
    token: str

    def get(self, path: str) -> Any:
        return self.requests.get(f"/api/{path}").json()

    def send(self, method: str, path: str, body: dict[str, Any]) -> Any:
        answer = self.requests.fetch(f"/api/{path}", method=method, data=body, headers={"X-CSRFToken": self.token})
        assert answer.ok, answer.text()
        return answer.json()

    def ribbed(self, along: int, across: int, longest: float = 0) -> int:
        """Begin a ribbed form, its ribs divided where they are longer than that [mm] (0: than the bed); return the project."""
        numbers = {"family": "crate", "width": 560, "depth": 360, "along": along, "across": across, "longest": longest}
        found: int = self.send("POST", "projects", {"name": f"Hill of {along + across} ribs", "numbers": numbers})["id"]
        return found


def edits(desk: Desk, project: int) -> None:
    """Time an edit of the demo project, and what its stations ask for."""
    saved: list[float] = []
    built: list[float] = []
    for k in range(15):
        now = desk.get(f"projects/{project}")
        now["design"]["numbers"]["width"] += 0.5
        start = time.perf_counter()
        desk.send("PUT", f"projects/{project}/design", {"base": now["revision"], "design": now["design"], "label": f"bench {k}"})
        saved.append(time.perf_counter() - start)
        start = time.perf_counter()
        desk.get(f"projects/{project}/build")
        built.append(time.perf_counter() - start)
    row("server: an edit is saved", saved[1:], aim="250 ms")
    row("server: the edited box is built and sent (10 parts)", built[1:], aim="250 ms")
    for path in ("strip", "dry-fit", "lay-out", "cut-plan", "runs"):
        row(f"server: GET {path}", timed(lambda path=path: desk.get(f"projects/{project}/{path}"), runs=10))


def ribs(desk: Desk) -> None:
    """Time an edit of one number of a ribbed form until it is saved, built and sent."""
    for along, across, aim in RIBS:
        project = desk.ribbed(along, across)
        seconds = []
        for rise in range(80, 86):
            now = desk.get(f"projects/{project}")
            now["design"]["numbers"]["rise"] = rise
            start = time.perf_counter()
            desk.send("PUT", f"projects/{project}/design?built=true", {"base": now["revision"], "design": now["design"], "label": "bench"})
            seconds.append(time.perf_counter() - start)
        row(f"server: a number of a form of {along + across} ribs saved, built, sent", seconds[1:], aim=aim)


def full_rack() -> None:
    """Put 300 stocks, 5,000 readings and 40 settings of machine and stock on the demo shop's rack."""
    from apps.accounts.models import Shop
    from apps.sheets.models import Machine, Reading, Stock, StockSettings

    shop, machine = Shop.objects.get(name="Alder Row Workshop"), Machine.objects.get()
    tried = StockSettings.objects.all()[0]
    Stock.objects.bulk_create(
        Stock(
            shop=shop,
            name=f"Sheet {i}",
            material="plywood",
            label_mm=1 + i % 9,
            batch=str(i),
        )
        for i in range(292)
    )
    rows = list(Stock.objects.filter(name__startswith="Sheet "))
    Reading.objects.bulk_create(Reading(stock=rows[i % 292], thickness_mm=1 + i % 9 + i % 7 / 100, on=tried.on) for i in range(5000))
    StockSettings.objects.bulk_create(
        StockSettings(
            stock=rows[i],
            machine=machine,
            lens="two_inch",
            values=tried.values,
            on=tried.on,
        )
        for i in range(40)
    )


def rack(desk: Desk) -> None:
    """Time a makerspace's rack, as the server lists it."""
    full_rack()
    row("server: rack of 300 stocks and 5,000 readings listed", timed(lambda: desk.get("rack"), runs=15), aim="200 ms")
    stock = desk.get("rack")["stocks"][0]["id"]
    row("server: one stock in full", timed(lambda: desk.get(f"stocks/{stock}"), runs=15))
