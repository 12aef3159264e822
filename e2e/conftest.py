"""Journeys in real Chromium against a live server, with the true worker and the simulated laser as processes of their own."""

from __future__ import annotations

import os
import socket
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import Any

import pytest
from django.conf import settings as django_settings
from playwright.sync_api import Browser, Page, Request, expect, sync_playwright

from processes import BACKEND, Worker
from steps import sign_in
from tests.rows import demo_rows, put_back

CHROMIUM_ARGS = [
    "--no-sandbox",  # the tests may run as root
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-dev-shm-usage",
    "--use-gl=angle",  # 3D in software
    "--use-angle=swiftshader",
    "--enable-unsafe-swiftshader",
    "--disable-gpu-compositing",  # only 3D needs it; drawing the rest of the page in software GL costs most of a frame
]
SEEN = BACKEND.parent / "var" / "e2e"
FAILED = pytest.StashKey[bool]()
PACE = int(os.environ.get("LASER_PACE", "400"))  # simulated seconds a real second
expect.set_options(timeout=45_000)  # two journeys at a time, on a slow day


def pytest_configure() -> None:
    """Passwords of tests need no slow hash."""
    django_settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    # The sync API keeps an event loop in this thread: without this Django refuses every query of a test.
    os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"
    with sync_playwright() as p:
        chromium = p.chromium.launch(
            executable_path=os.environ.get("CHROMIUM", "/usr/bin/chromium"),
            headless=True,
            args=CHROMIUM_ARGS,
        )
        yield chromium
        chromium.close()
    os.environ.pop("DJANGO_ALLOW_ASYNC_UNSAFE")


@pytest.hookimpl(hookwrapper=True)
def pytest_runtest_makereport(item: pytest.Item) -> Iterator[None]:
    """Tell the fixtures whether the journey failed."""
    outcome = yield
    report = outcome.get_result()  # type: ignore[attr-defined]
    if report.when == "call":
        item.stash[FAILED] = report.failed


@pytest.fixture
def new_page(browser: Browser, live_server: Any, request: pytest.FixtureRequest) -> Iterator[Callable[..., Page]]:
    """Return a way to open another browser; the test fails when any page reports an error of its own.

    What the browsers showed when a journey failed is kept in var/e2e.
    """
    errors: list[str] = []
    contexts = []
    asked: set[Request] = set()

    def open_page(*, width: int = 1280, height: int = 800, quiet: bool = True) -> Page:
        context = browser.new_context(
            base_url=live_server.url,
            viewport={"width": width, "height": height},
            locale="en-GB",
            timezone_id="UTC",
            accept_downloads=True,
        )
        contexts.append(context)
        page = context.new_page()
        page.on("pageerror", lambda e: errors.append(str(e)))
        page.on("request", lambda r: asked.add(r))  # noqa: PLW0108 (Playwright takes no built-in method)
        for ended in ("requestfinished", "requestfailed"):
            page.on(ended, lambda r: asked.discard(r))  # noqa: PLW0108
        if quiet:  # a refused request is a console error of the browser's own; journeys that provoke one say so
            page.on(
                "console",
                lambda m: errors.append(m.text) if m.type == "error" else None,
            )
        return page

    yield open_page
    for i, context in enumerate(contexts):
        for _ in range(100):  # what the screen shows already may still be on its way to the server
            if not asked:
                break
            context.pages[0].wait_for_timeout(50)
        if request.node.stash.get(FAILED, False):
            context.pages[0].screenshot(path=SEEN / f"{request.node.name.replace('/', '-')}-{i}.png")
        context.close()
    assert errors == []


@pytest.fixture(scope="session")
def rows(django_db_setup: None, django_db_blocker: Any) -> str:
    """The demo shop as it is first loaded, computed once: every journey starts from a copy of its rows."""
    with django_db_blocker.unblock():
        return demo_rows(pack_seconds=0.5)


@pytest.fixture
def shop(transactional_db: None, rows: str) -> None:
    put_back(rows)


@pytest.fixture
def page(shop: None, new_page: Callable[..., Page]) -> Page:
    """Return a signed-in browser on the shop board of the demo shop."""
    return sign_in(new_page())


@pytest.fixture
def loud_page(shop: None, new_page: Callable[..., Page]) -> Page:
    """As `page`, for journeys in which the server refuses something on purpose."""
    return sign_in(new_page(quiet=False))


@pytest.fixture
def worker(transactional_db: None) -> Iterator[Worker]:
    running = Worker()
    running.start()
    yield running
    running.stop()


def _free_port() -> int:
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        return int(s.getsockname()[1])


@contextmanager
def _device(name: str, pace: int) -> Iterator[str]:
    """Run a simulated device beside the live server; gives its address once it answers."""
    port = _free_port()
    process = subprocess.Popen(
        [
            sys.executable,
            "-m",
            f"devices.{name}",
            "--port",
            str(port),
            "--pace",
            str(pace),
        ],
        cwd=BACKEND,
    )
    for _ in range(100):
        with socket.socket() as s:
            if s.connect_ex(("127.0.0.1", port)) == 0:
                break
        time.sleep(0.05)
    yield f"127.0.0.1:{port}"
    process.terminate()
    process.wait(10)


@pytest.fixture
def laser(settings: Any) -> Iterator[str]:
    """The simulated laser; ask for it before the worker, which must know its address."""
    with _device("laser", PACE) as address:
        settings.LASER_ADDRESS = address
        yield address


@pytest.fixture
def caliper(settings: Any) -> Iterator[str]:
    """The simulated caliper with its line."""
    with _device("caliper", 3) as address:
        settings.CALIPER_ADDRESS = address
        yield address
