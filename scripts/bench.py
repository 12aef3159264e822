"""Figures of this machine: how long things take that a person waits for. Prints medians and 95th percentiles; judges nothing.

Run by ./board bench, on a database of its own that is dropped at the end.
"""
# ruff: noqa: T201  (a table on the screen is what it is for)

from __future__ import annotations

import os
import statistics
import subprocess
import sys
import time
import urllib.request
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from collections.abc import Iterator

    from playwright.sync_api import APIRequestContext, Page

    from notchcore.measure.stock import Stock

BACKEND = Path(__file__).resolve().parent.parent / "backend"
PORT = int(os.environ.get("BENCH_PORT", "8485"))
sys.path.insert(0, str(BACKEND))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")


def row(name: str, seconds: list[float], *, aim: str = "") -> None:
    ordered = sorted(seconds)
    p95 = ordered[min(len(ordered) - 1, round(0.95 * (len(ordered) - 1)))]
    print(
        f"{name:<58} {statistics.median(ordered) * 1000:9.1f} {p95 * 1000:9.1f}  {len(ordered):4d}  {aim}",
        flush=True,
    )


def timed(work: Callable[[], object], *, runs: int, warm: int = 1) -> list[float]:
    for _ in range(warm):
        work()
    out = []
    for _ in range(runs):
        start = time.perf_counter()
        work()
        out.append(time.perf_counter() - start)
    return out


def _forms(ply: Stock) -> None:
    """Time families as they begin, and one number of a ribbed form changed."""
    from notchcore.check.dryfit import dry_fit
    from notchcore.design.design import Design, build
    from notchcore.design.families.crate import CrateNumbers
    from notchcore.design.families.registry import FAMILIES

    stocks = {"ply": ply}
    for family in FAMILIES.values():
        design = Design(numbers=family.numbers(), stocks={r.id: "ply" for r in family.roles})
        row(
            f"core: {family.label.lower()} of {len(build(design, stocks).parts)} parts built again",
            timed(lambda d=design: build(d, stocks), runs=5),
        )
    for along, across, aim in ((12, 18, "300 ms in all"), (40, 40, "1.5 s in all")):
        rises = iter(range(60, 200))

        def changed(along: int = along, across: int = across, rises: Iterator[int] = rises) -> object:
            numbers = CrateNumbers(width=900, depth=900, along=along, across=across, rise=next(rises))
            return build(
                Design(numbers=numbers, stocks={"along": "ply", "across": "ply"}),
                stocks,
            )

        row(
            f"core: a number of a ribbed form of {along + across} parts, {along * across} joints",
            timed(changed, runs=5),
            aim=aim,
        )
    assembly = build(
        Design(
            numbers=CrateNumbers(width=900, depth=900, along=40, across=40),
            stocks={"along": "ply", "across": "ply"},
        ),
        stocks,
    )
    row(
        "core: dry fit of 80 ribs, 1,600 joints",
        timed(lambda: dry_fit(assembly, stocks), runs=2, warm=0),
    )


def _orders() -> None:
    """Time the order of many contours: plates in a grid, each with two holes; each order is replayed by an independent check."""
    import math
    from random import Random

    from notchcore.geom.contours import contour_of
    from notchcore.measure.machine import Operation
    from notchcore.plan import tour
    from notchcore.plan.order import cutting_order
    from notchcore.plan.paths import CutPath
    from tests.replay import replay

    tour.warm()

    def ring(name: str, x: float, y: float, size: float, operation: Operation) -> CutPath:
        corners = ((x, y), (x + size, y), (x + size, y + size), (x, y + size))
        return CutPath(
            id=name,
            part=name,
            copy=0,
            operation=operation,
            contour=contour_of(corners),
        )

    for count, aim in ((50, "2 s"), (200, "2 s"), (1000, "2 s"), (5000, "10 s")):
        random, paths = Random(count), []
        columns = math.ceil(math.sqrt(count / 3))
        for i in range(count // 3):
            x, y = (
                40 * (i % columns) + random.uniform(0, 8),
                40 * (i // columns) + random.uniform(0, 8),
            )
            paths += [
                ring(f"{i}", x, y, 30, Operation.OUTER),
                ring(f"{i}a", x + random.uniform(3, 8), y + 3, 8, Operation.INNER),
                ring(f"{i}b", x + 18, y + random.uniform(12, 17), 8, Operation.INNER),
            ]
        random.shuffle(paths)
        found: list[tuple[list[CutPath], float]] = []

        def order(paths: list[CutPath] = paths, found: list[tuple[list[CutPath], float]] = found) -> None:
            found[:] = [cutting_order(paths)]

        row(
            f"core: order of {len(paths)} contours",
            timed(order, runs=2, warm=0),
            aim=aim,
        )
        ordered, travel = found[0]
        print(f"{'':<10}travel {travel:.0f} mm; replay: {'; '.join(replay(ordered)[:3]) or 'nothing broken'}")


def core() -> None:
    from notchcore.check.dryfit import dry_fit
    from notchcore.design.design import build
    from notchcore.measure.machine import Machine, default_settings
    from notchcore.nest.pack import pack
    from notchcore.nest.search import Work
    from notchcore.nest.values import Nesting, NestPart, NestRules, SheetKind
    from notchcore.plan.cutplan import cut_plan
    from tests.strategies import make_box, make_stock

    stocks = {"ply": make_stock("ply", 3.08)}
    for columns, rows in ((2, 2), (3, 2), (8, 6), (12, 12)):
        design = make_box(
            same_stock=True,
            width=60 + 40 * columns,
            depth=50 + 40 * rows,
            height=60,
            columns=columns,
            rows=rows,
        )
        parts = len(build(design, stocks).parts)
        row(
            f"core: box of {parts} parts rebuilt",
            timed(lambda d=design: build(d, stocks), runs=15),
            aim="100 ms at 8 parts" if parts == 8 else "",
        )
    _forms(stocks["ply"])
    _orders()
    for columns, rows in ((3, 2), (12, 12)):
        design = make_box(
            same_stock=True,
            width=60 + 40 * columns,
            depth=50 + 40 * rows,
            height=60,
            columns=columns,
            rows=rows,
        )
        assembly = build(design, stocks)
        row(
            f"core: dry fit of {len(assembly.parts)} parts, {len(assembly.meetings)} joints",
            timed(lambda a=assembly: dry_fit(a, stocks), runs=3, warm=0),
        )
    design = make_box(same_stock=True, width=214, depth=150, height=62, columns=3, rows=2)
    assembly = build(design, stocks)
    machine = Machine(id="m", name="Alder desk laser")
    for copies in (1, 7, 25):
        wanted = [NestPart(id=p.id, stock="ply", profile=p.profile, count=copies) for p in assembly.parts]
        sheets = [SheetKind(id="s", stock="ply", name="s", width=600, height=400, count=200)]

        def first(wanted: list[NestPart] = wanted, sheets: list[SheetKind] = sheets) -> Nesting:
            return pack(wanted, sheets, NestRules(), Work(1))

        row(
            f"core: first packing of {copies * len(wanted)} parts",
            timed(first, runs=3, warm=0),
            aim="2 s",
        )
        nesting = first()
        row(
            f"core: cut plan of {copies * len(wanted)} parts",
            timed(
                lambda n=nesting: cut_plan(
                    assembly,
                    n,
                    stocks,
                    machine,
                    {"ply": default_settings(stocks["ply"])},
                ),
                runs=2,
                warm=0,
            ),
        )


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
    for family in ("plywood", "cast_acrylic", "grey_board"):
        found = calibrate(SHOPS, joints=JOINTS, family=family)
        print(
            f"  {family}: truth within the stated sd: thickness {found.thickness_in_sd:.1%}, kerf {found.kerf_in_sd:.1%}; "
            f"boundary between feels within its stated ± (nine of ten) {found.boundary_in_90:.1%}"
        )
        line("said came, tested", found.tested)
        line("before any test", found.untested)
    print()


def _ribs(requests: APIRequestContext, token: str) -> None:
    """Time an edit of one number of a ribbed form until it is built and sent."""
    for along, across, aim in ((12, 18, "300 ms"), (40, 40, "1.5 s")):
        numbers = {
            "family": "crate",
            "width": 560,  # no rib longer than the bed
            "depth": 360,
            "along": along,
            "across": across,
        }
        project = requests.post(
            "/api/projects",
            data={"name": "Bench hill", "numbers": numbers},
            headers={"X-CSRFToken": token},
        ).json()["id"]
        seconds = []
        for rise in range(80, 86):
            now = requests.get(f"/api/projects/{project}").json()
            now["design"]["numbers"]["rise"] = rise
            start = time.perf_counter()
            body = {"base": now["revision"], "design": now["design"], "label": "bench"}
            requests.put(
                f"/api/projects/{project}/design",
                data=body,
                headers={"X-CSRFToken": token},
            )
            requests.get(f"/api/projects/{project}/build")
            seconds.append(time.perf_counter() - start)
        row(
            f"server: a number of a form of {along + across} ribs saved, built, sent",
            seconds[1:],
            aim=aim,
        )


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
            family="plywood",
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


def _rack(page: Page, requests: APIRequestContext, project: int) -> None:
    """Time a makerspace's rack: listed by the server, filtered in the page."""
    full_rack()
    row(
        "server: rack of 300 stocks and 5,000 readings listed",
        timed(lambda: requests.get("/api/rack"), runs=15),
        aim="200 ms",
    )
    stock = requests.get("/api/rack").json()["stocks"][0]["id"]
    row(
        "server: one stock in full",
        timed(lambda: requests.get(f"/api/stocks/{stock}"), runs=15),
    )
    page.goto(f"/projects/{project}/sheets")
    words = page.get_by_label("Filter by name, family or thickness")
    words.wait_for()
    page.wait_for_timeout(1000)
    numbers = iter(range(1, 100))

    def filtered() -> None:
        number = next(numbers)
        words.fill(f"sheet {number}")
        page.get_by_role("button", name=f"Sheet {number}", exact=False).first.wait_for()

    row("page: rack of 300 stocks filtered", timed(filtered, runs=10), aim="200 ms")


def server() -> None:  # noqa: PLR0915 (one session from start to end)
    """Time requests of the demo project and a page in Chromium, against a warm server process."""
    from django.db import connection
    from playwright.sync_api import sync_playwright

    from apps.runs import demo

    demo.load()
    env = os.environ | {"PG_DB": str(connection.settings_dict["NAME"]), "DB_POOL": "1"}
    command = [
        sys.executable,
        "-m",
        "uvicorn",
        "config.asgi:application",
        "--port",
        str(PORT),
        "--log-level",
        "warning",
    ]
    web = subprocess.Popen(command, cwd=BACKEND, env=env)
    base = f"http://127.0.0.1:{PORT}"
    try:
        for _ in range(150):
            try:
                urllib.request.urlopen(f"{base}/api/me", timeout=2)
                break
            except OSError:
                time.sleep(0.2)
        with sync_playwright() as p:
            arguments = [
                "--no-sandbox",
                "--disable-background-networking",
                "--use-gl=angle",
                "--use-angle=swiftshader",
                "--enable-unsafe-swiftshader",
            ]
            browser = p.chromium.launch(
                executable_path=os.environ.get("CHROMIUM", "/usr/bin/chromium"),
                args=arguments,
            )
            context = browser.new_context(base_url=base, viewport={"width": 1280, "height": 800})
            page = context.new_page()
            page.goto("/")
            page.get_by_label("Name").fill(demo.USER)
            page.get_by_label("Password").fill(demo.PASSWORD)
            page.get_by_role("button", name="Sign in").click()
            page.get_by_text("Seed packet drawer").first.wait_for()
            requests = context.request
            token = next(c["value"] for c in context.cookies() if c["name"] == "csrftoken")
            project = requests.get("/api/shop-board").json()[0]["id"]

            def edit(state: dict[str, float] = {"width": 214.0}) -> None:  # noqa: B006 (each edit goes on from the one before)
                now = requests.get(f"/api/projects/{project}").json()
                state["width"] += 0.5
                now["design"]["numbers"]["width"] = state["width"]
                body = {
                    "base": now["revision"],
                    "design": now["design"],
                    "label": "bench",
                }
                start = time.perf_counter()
                answer = requests.put(
                    f"/api/projects/{project}/design",
                    data=body,
                    headers={"X-CSRFToken": token},
                )
                saved.append(time.perf_counter() - start)
                assert answer.ok, answer.text()
                start = time.perf_counter()
                requests.get(f"/api/projects/{project}/build")
                built.append(time.perf_counter() - start)

            saved: list[float] = []
            built: list[float] = []
            for _ in range(15):
                edit()
            row("server: an edit is saved", saved[1:], aim="250 ms")
            row(
                "server: the edited box is built and sent (10 parts)",
                built[1:],
                aim="250 ms",
            )
            for path in ("strip", "check", "layout", "plan", "runs"):
                row(
                    f"server: GET {path}",
                    timed(
                        lambda path=path: requests.get(f"/api/projects/{project}/{path}"),
                        runs=10,
                    ),
                )

            _ribs(requests, token)
            _rack(page, requests, project)

            def shown() -> None:
                page.goto(f"/projects/{project}/build")
                page.locator("canvas[data-drawn='10']").wait_for()

            row(
                "page: Build opened until its 3D view is drawn",
                timed(shown, runs=5),
                aim="2 s",
            )

            def listed() -> None:
                page.goto("/")
                page.get_by_text("Seed packet drawer").first.wait_for()

            row(
                "page: shop board opened until its cards are there",
                timed(listed, runs=5),
                aim="2 s",
            )
            browser.close()
    finally:
        web.terminate()
        web.wait(10)


def main() -> None:
    import django
    from django.test.utils import setup_databases, teardown_databases

    django.setup()
    if sys.argv[1:] == ["calibration"]:
        calibration()
        return
    os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"  # the browser driver keeps an event loop in this thread
    print(f"{'':<58} {'median ms':>9} {'95 % ms':>9}  runs  aim")
    core()
    calibration()
    old = setup_databases(verbosity=0, interactive=False)
    try:
        server()
    finally:
        from django.db import connection

        with connection.cursor() as cursor:  # the web process may still be letting go of its pool
            cursor.execute("select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()")
        teardown_databases(old, verbosity=0)


if __name__ == "__main__":
    main()
