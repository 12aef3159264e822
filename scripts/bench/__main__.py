"""Figures of this machine: how long things take that a person waits for. Prints medians and 95th percentiles; judges nothing.

Run by ./board bench [core | calibration | server | nest ... | twin ... | faults]; the server's part on a database of its own that is dropped at the end.
"""
# ruff: noqa: T201  (a table on the screen is what it is for)

from __future__ import annotations

import os
import subprocess
import sys
import time
import urllib.request
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from collections.abc import Iterator

    from server import Desk

BACKEND = Path(__file__).resolve().parent.parent.parent / "backend"
PORT = int(os.environ.get("BENCH_PORT", "8485"))
BASE = f"http://127.0.0.1:{PORT}"
CHROMIUM = ["--no-sandbox", "--disable-background-networking", "--use-gl=angle", "--use-angle=swiftshader", "--enable-unsafe-swiftshader"]
sys.path.insert(0, str(BACKEND))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")


@contextmanager
def database() -> Iterator[str]:
    """Make a database with the demo shop, and drop it at the end; give its name."""
    import django
    from django.test.utils import setup_databases, teardown_databases

    django.setup()
    old = setup_databases(verbosity=0, interactive=False)
    from django.db import connection

    from apps.runs import demo

    try:
        demo.load()
        yield str(connection.settings_dict["NAME"])
    finally:
        with connection.cursor() as cursor:  # the web process may still be letting go of its pool
            cursor.execute("select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()")
        teardown_databases(old, verbosity=0)


@contextmanager
def serving(database: str) -> Iterator[None]:
    command = [sys.executable, "-m", "uvicorn", "config.asgi:application", "--port", str(PORT), "--log-level", "warning"]
    web = subprocess.Popen(command, cwd=BACKEND, env=os.environ | {"PG_DB": database, "DB_POOL": "1"})
    try:
        for _ in range(150):
            try:
                urllib.request.urlopen(f"{BASE}/api/me", timeout=2)
                break
            except OSError:
                time.sleep(0.2)
        yield
    finally:
        web.terminate()
        web.wait(10)


@contextmanager
def signed_in() -> Iterator[Desk]:
    from playwright.sync_api import sync_playwright
    from server import Desk

    from apps.runs import demo

    with sync_playwright() as p:
        browser = p.chromium.launch(executable_path=os.environ.get("CHROMIUM", "/usr/bin/chromium"), args=CHROMIUM)
        context = browser.new_context(base_url=BASE, viewport={"width": 1280, "height": 800})
        page = context.new_page()
        page.goto("/")
        page.get_by_label("Name").fill(demo.USER)
        page.get_by_label("Password").fill(demo.PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        page.get_by_text("Seed packet drawer").first.wait_for()
        yield Desk(page, context.request, next(c["value"] for c in context.cookies() if c["name"] == "csrftoken"))
        browser.close()


def served() -> None:
    """Time requests of the demo project, and pages in Chromium."""
    import page
    import server

    os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"  # the browser driver keeps an event loop in this thread
    with database() as name, serving(name), signed_in() as desk:
        project = desk.get("shop-board")[0]["id"]
        server.edits(desk, project)
        server.ribs(desk)
        page.shown_edits(desk)
        page.turned(desk)
        server.rack(desk)
        page.filtered(desk, project)
        page.opened(desk, project)


def main() -> None:
    if sys.argv[1:2] == ["nest"]:
        import nest

        nest.main(*nest.asked(sys.argv[2:]))
        return
    if sys.argv[1:2] in (["twin"], ["faults"]):
        from importlib import import_module

        import_module(sys.argv[1]).main(sys.argv[2:])
        return
    import calibration
    import core
    from timing import HEAD, pace

    parts = {"core": core.core, "calibration": calibration.calibration, "server": served}
    wanted = sys.argv[1:] or list(parts)
    print(HEAD)
    for part in wanted:
        pace()
        parts[part]()
    pace()


if __name__ == "__main__":
    main()
