"""What the stations say of themselves on the bench strip."""

from __future__ import annotations

STRIP: dict[str, str] = {
    "strip.stale": "changed since",
    "strip.guesses": "{guesses}",
    "strip.measured": "measured",
    "strip.sheets": "{stocks}, {known}",
    "strip.to_fix": "{number} to fix",
    "strip.to_look": "{number} to look at",
    "strip.build": "{parts}, {joints}",
    "strip.build.helpers": "{parts}, {joints}, {helpers}",
    "strip.busy.dryfit": "checking",
    "strip.busy.layout": "packing",
    "strip.busy.plan": "planning",
    "strip.not_tried": "not tried yet",
    "strip.fits": "fits, {steps}",
    "strip.not_packed": "not packed yet",
    "strip.left_over": "{parts} left over",
    "strip.packed": "{sheets}, {used}",
    "strip.not_planned": "not planned yet",
    "strip.minutes": "{minutes} min ± {band}",
    "strip.hours": "{hours} h {minutes} ± {band} min",
    "strip.running": "sheet {sheet} {state}",
    "strip.not_started": "not started",
    "strip.cut": "{done} of {all} {cut}",
    "strip.cut.spoiled": "{done} of {all} {cut}, {spoiled} spoiled",
    "strip.word.cut": "cut",
    "strip.word.runs": "runs",
}
