"""How long a person waits, in Chromium: from what they do until it is drawn."""

from __future__ import annotations

from server import RIBS, Desk
from timing import row, timed

#: notes when Enter was pressed and when the 3D view last drew what is seen
CLOCK = """
const bound = WebGL2RenderingContext.prototype.bindFramebuffer;
WebGL2RenderingContext.prototype.bindFramebuffer = function (target, buffer) { window.unseen = buffer !== null; return bound.call(this, target, buffer); };
for (const name of ['drawElements', 'drawArrays']) {
    const drawn = WebGL2RenderingContext.prototype[name];
    WebGL2RenderingContext.prototype[name] = function (...given) { if (!window.unseen) window.lastDrawn = performance.now(); return drawn.apply(this, given); };
}
addEventListener('keydown', (event) => { if (event.key === 'Enter') [window.entered, window.lastDrawn] = [performance.now(), 0]; }, true);
"""
#: notes how long each picture of the page took [ms]
FRAMES = """
() => { window.frames_ms = []; let last = performance.now();
    const next = (now) => { frames_ms.push(now - last); last = now; requestAnimationFrame(next); };
    requestAnimationFrame(next); }
"""
STILL_MS = 1500  # without drawing: what was typed is shown


def shown_edits(desk: Desk, count: int = 12) -> None:
    """Time one number typed, until the 3D view shows all parts anew; each is one that was never built before."""
    desk.page.add_init_script(CLOCK)
    for along, across, aim in RIBS:
        project = desk.ribbed(along, across)
        desk.page.goto(f"/projects/{project}/build")
        desk.page.locator(f"canvas[data-drawn='{along + across}']").wait_for()
        field = desk.page.get_by_label("Lowest height")
        seconds = []
        for k in range(count + 1):
            desk.page.wait_for_timeout(STILL_MS)
            field.fill(f"{40 + 0.7 * k:.1f}")
            field.press("Enter")
            shown = f"document.body.innerText.includes('revision {k + 2} · saved') && lastDrawn > entered && performance.now() - lastDrawn > {STILL_MS}"
            desk.page.wait_for_function(f"() => {shown}", polling=STILL_MS / 2)  # seldom: looking takes time away from what is timed
            seconds.append(desk.page.evaluate("() => (lastDrawn - entered) / 1000"))
        row(f"page: a number of {along + across} ribs typed until it is drawn", seconds[1:], aim=aim)


def turned(desk: Desk, turns: int = 5) -> None:
    """Time each picture while 200 parts are turned by the pointer for two seconds, again and again."""
    desk.page.goto(f"/projects/{desk.ribbed(50, 50, longest=300)}/build")
    view = desk.page.locator("canvas[data-drawn='200']")
    view.wait_for()
    desk.page.wait_for_timeout(5000)
    desk.page.evaluate(FRAMES)
    box = view.bounding_box()
    assert box
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    mouse, seconds = desk.page.mouse, []
    for _ in range(turns):
        mouse.move(x, y)
        mouse.down()
        desk.page.evaluate("() => void (frames_ms.length = 0)")
        for k in range(80):
            mouse.move(x + 3 * k, y + k)
            desk.page.wait_for_timeout(25)
        seconds += [ms / 1000 for ms in desk.page.evaluate("() => frames_ms")]
        mouse.up()
        desk.page.wait_for_timeout(STILL_MS)
    late = sum(s > 0.05 for s in seconds)
    row(f"page: a picture while 200 parts are turned ({late} took over 50 ms)", seconds, aim="50 ms")


def filtered(desk: Desk, project: int) -> None:
    """Time the rack of a makerspace, filtered; the server's bench has filled it."""
    desk.page.goto(f"/projects/{project}/sheets")
    words = desk.page.get_by_label("Filter by name, family or thickness")
    words.wait_for()
    desk.page.wait_for_timeout(1000)
    numbers = iter(range(1, 100))

    def one() -> None:
        number = next(numbers)
        words.fill(f"sheet {number}")
        desk.page.get_by_role("button", name=f"Sheet {number}", exact=False).first.wait_for()

    row("page: rack of 300 stocks filtered", timed(one, runs=10), aim="200 ms")


def opened(desk: Desk, project: int) -> None:
    """Time the two pages that work begins on."""

    def build() -> None:
        desk.page.goto(f"/projects/{project}/build")
        desk.page.locator("canvas[data-drawn='10']").wait_for()

    def board() -> None:
        desk.page.goto("/")
        desk.page.get_by_text("Seed packet drawer").first.wait_for()

    row("page: Build opened until its 3D view is drawn", timed(build, runs=5), aim="2 s")
    row("page: shop board opened until its cards are there", timed(board, runs=5), aim="2 s")
