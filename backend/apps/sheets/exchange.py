"""Stocks, shelf, evidence and settings as CSV and JSON, out and in. An import keeps everything or nothing."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Callable
from dataclasses import replace
from datetime import date
from typing import Any

from django.db import models, transaction

from apps.accounts.models import Member
from apps.sheets import convert, evidence, services
from apps.sheets.columns import COLUMNS, cell_in, cell_out, column_of, head_of
from apps.sheets.models import Feel, KerfTest, Machine, Reading, Sheet, Stock, StockSettings
from notchcore.errors import MeasureError, NotchCoreError
from notchcore.measure import fit, gauge, kerf, machine, thickness
from notchcore.words.render import say

FORMAT = "notch-board-sheets/1"
MOST_ROWS = 20_000
Record = dict[str, Any]


def _rows_of(member: Member, what: str) -> list[Record]:
    stocks = {s.pk: s.name for s in Stock.objects.filter(shop=member.shop).order_by("pk")}
    if what == "stocks":
        return [{"stock": s.name, **{c: getattr(s, c) for c in COLUMNS[what][1:]}} for s in Stock.objects.filter(shop=member.shop).order_by("pk")]
    if what == "settings":
        found = []
        for row in StockSettings.objects.filter(stock__shop=member.shop, withdrawn=False).select_related("machine").order_by("pk"):
            head = {"stock": stocks[row.stock_id], "machine": row.machine.name, "lens": row.lens}
            tail = {"on": row.on.isoformat(), "by": row.by, "borrowed": row.borrowed}
            kept = convert.SETTINGS.validate_python(convert.values_of(row))
            tried = [o for o in machine.OPERATIONS if kept.source_of(o) != machine.UNTESTED]
            found += [{**head, "operation": o, **row.values[o], "source": kept.source_of(o), **tail} for o in tried]
        return found
    model: type[models.Model] = {"sheets": Sheet, "readings": Reading, "kerf-tests": KerfTest, "feels": Feel}[what]
    rows = model._default_manager.filter(stock__shop=member.shop).order_by("pk")
    if what in ("kerf-tests", "feels"):
        rows = rows.select_related("machine")

    def cell(row: Any, column: str) -> Any:
        if column in ("stock", "entering"):
            return stocks[getattr(row, f"{column}_id")]
        value = row.machine.name if column == "machine" else getattr(row, column)
        return value.isoformat() if isinstance(value, date) else value

    return [{c: cell(r, c) for c in COLUMNS[what]} for r in rows]


def as_csv(member: Member, what: str) -> str:
    """Return all rows of a kind as CSV with a head line, in the member's unit; lists stand as JSON in their cell."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow([head_of(c, member.unit) for c in COLUMNS[what]])
    writer.writerows([[cell_out(c, row.get(c), unit=member.unit) for c in COLUMNS[what]] for row in _rows_of(member, what)])
    return out.getvalue()


def as_json(member: Member) -> str:
    """Return everything as one JSON text."""
    return json.dumps({"format": FORMAT, **{what: _rows_of(member, what) for what in COLUMNS}}, indent=1, ensure_ascii=False)


def _read(what: str, text: str) -> dict[str, list[Record]]:
    """Return the records of a file by kind, typed.

    Raises:
        MeasureError: it is no such file, with the line where reading stopped
    """
    if what == "all":
        try:
            whole = json.loads(text)
        except ValueError:
            whole = None
        if not isinstance(whole, dict) or whole.get("format") != FORMAT:
            raise MeasureError(say("no_export"))
        return {k: list(whole.get(k) or []) for k in COLUMNS}
    reader = csv.DictReader(io.StringIO(text.lstrip("\ufeff")), delimiter=";" if ";" in text.split("\n", 1)[0] else ",")
    if "stock" not in (heads := [h.strip() for h in reader.fieldnames or []]):
        raise MeasureError(say("columns.stock", known=", ".join(COLUMNS[what])))
    columns = [column_of(h, what) for h in heads if h]
    if twice := next((c.name for c in columns if [o.name for o in columns].count(c.name) > 1), None):
        raise MeasureError(say("columns.twice", twice=twice))
    reader.fieldnames = heads
    found = []
    for row in reader:
        try:
            found.append({c.name: cell_in(c, row[h] or "") for c, h in zip(columns, filter(None, heads), strict=True)})
        except ValueError as problem:
            raise MeasureError(say("columns.no_number", line=reader.line_num, problem=str(problem)), line=reader.line_num) from None
    return {what: found}


class _Import:
    """One import; every record is checked by the same rules as an entry by hand."""

    def __init__(self, member: Member) -> None:
        self.member = member
        self.stocks = {s.name: s for s in Stock.objects.filter(shop=member.shop)}
        self.machines = {m.name: m for m in Machine.objects.filter(shop=member.shop)}

    def _stamp(self, r: Record) -> Record:
        return {
            "on": date.fromisoformat(r.get("on") or date.today().isoformat()),
            "by": r.get("by") or self.member.user.username,
            "withdrawn": bool(r.get("withdrawn")),
            "borrowed": r.get("borrowed") or "",
        }

    def stock(self, r: Record, column: str = "stock") -> Stock:
        name = str(r.get(column) or "").strip()
        if name not in self.stocks:
            raise MeasureError(say("no_such_stock.row", name=name))
        return self.stocks[name]

    def machine(self, r: Record) -> Machine:
        name = str(r.get("machine") or "").strip()
        if name not in self.machines:
            raise MeasureError(say("no_such_machine.row", name=name))
        return self.machines[name]

    def stocks_row(self, r: Record) -> None:
        name = str(r.get("stock") or "").strip()
        values = {k: r[k] for k in COLUMNS["stocks"][1:] if r.get(k) is not None}
        if name in self.stocks:
            services.change_stock(stock=self.stocks[name], changes=values)
        else:
            self.stocks[name] = services.add_stock(member=self.member, name=name, **values)

    def sheets_row(self, r: Record) -> None:
        services.shelve(stock=self.stock(r), **{k: r[k] for k in COLUMNS["sheets"][1:] if r.get(k) is not None})

    def readings_row(self, r: Record) -> None:
        thickness.Reading(thickness=r["thickness_mm"])
        x, y = (0.5 if r.get(k) is None else float(r[k]) for k in ("x", "y"))
        Reading.objects.create(stock=self.stock(r), thickness_mm=r["thickness_mm"], x=x, y=y, **self._stamp(r))

    def kerf_row(self, r: Record) -> None:
        kind = kerf.KerfTestKind(r["kind"])
        count = r.get("count") or 1
        kerf.KerfTest(kind=kind, drawn=r["drawn_mm"], measured=r["measured_mm"], below=r.get("below_mm"), count=count)
        KerfTest.objects.create(
            stock=self.stock(r),
            machine=self.machine(r),
            lens=r.get("lens") or "standard",
            setting=r.get("setting") or "",
            kind=kind.value,
            drawn_mm=r["drawn_mm"],
            measured_mm=r["measured_mm"],
            below_mm=r.get("below_mm"),
            count=count,
            **self._stamp(r),
        )

    def feels_row(self, r: Record) -> None:
        opening, entering = self.stock(r), self.stock(r, "entering")
        drawn, clearance, sd = (r.get(k) for k in ("drawn_mm", "clearance_mm", "sd_mm"))
        gauge.Answer(opening=str(opening.pk), entering=str(entering.pk), feel=fit.Feel(r["feel"]), drawn=drawn, clearance=clearance, sd=sd or 0.0)
        Feel.objects.create(
            stock=opening,
            entering=entering,
            machine=self.machine(r),
            lens=r.get("lens") or "standard",
            setting=r.get("setting") or "",
            feel=r["feel"],
            drawn_mm=drawn,
            clearance_mm=clearance,
            sd_mm=sd or 0.0,
            **self._stamp(r),
        )

    def settings_rows(self, records: list[Record]) -> int:
        """Keep settings, whose three operations stand on lines of their own."""
        groups: list[dict[str, Record]] = []
        latest: dict[tuple[str, ...], dict[str, Record]] = {}
        for r in records:
            key = tuple(str(r.get(k) or "") for k in ("stock", "machine", "lens", "on"))
            if key not in latest or str(r.get("operation")) in latest[key]:  # the same operation on the same day again: settings of their own
                latest[key] = {}
                groups.append(latest[key])
            latest[key][str(r.get("operation"))] = r
        fields = [f for f in machine.Beam.__dataclass_fields__]
        for group in groups:
            first = next(iter(group.values()))
            on = convert.machine_of(self.machine(first))
            sources = {op: str(row.get("source") or "imported") for op, row in group.items() if op in machine.OPERATIONS}
            default = convert.SETTINGS.dump_python(machine.default_settings(convert.stock_value(self.stock(first), on)), mode="json")
            beams = {op: {**default[op], **{f: row[f] for f in fields if row.get(f) is not None}} for op, row in group.items() if op in machine.OPERATIONS}
            lens = first.get("lens") or "standard"
            with_it = replace(on, lens=lens) if lens in {one.id for one in on.lenses} else on
            values = evidence.with_beams(self.stock(first), with_it, beams=beams, sources=sources)
            convert.SETTINGS.validate_python(values)
            StockSettings.objects.create(
                stock=self.stock(first),
                machine=self.machine(first),
                lens=lens,
                values=values,
                source=next(iter(sources.values()), "imported")[:120],
                **self._stamp(first),
            )
        return len(groups)


@transaction.atomic
def take_in(*, member: Member, what: str, text: str) -> dict[str, int]:
    """Keep everything of a file, or nothing when a record is not right; return rows by kind.

    Stocks that are on the rack already, by name, are changed; evidence is always added.
    """
    records = _read(what, text)
    if sum(len(r) for r in records.values()) > MOST_ROWS:
        raise MeasureError(say("rows_most", most=MOST_ROWS))
    work = _Import(member)
    each: dict[str, Callable[[Record], None]] = {
        "stocks": work.stocks_row,
        "sheets": work.sheets_row,
        "readings": work.readings_row,
        "kerf-tests": work.kerf_row,
        "feels": work.feels_row,
    }
    kept = {}
    for kind, rows in records.items():
        if kind == "settings":
            try:
                kept[kind] = work.settings_rows(rows)
            except ValueError as problem:
                raise MeasureError(say("settings_unreadable", problem=str(problem))) from None
            continue
        for number, r in enumerate(rows, start=1):
            try:
                each[kind](r)
            except NotchCoreError as problem:
                raise MeasureError(say("row_refused", kind=kind, number=number, why=problem.says), row=number) from None
            except (KeyError, TypeError, ValueError) as problem:
                raise MeasureError(say("row_unreadable", kind=kind, number=number, problem=str(problem)), row=number) from None
        kept[kind] = len(rows)
    return kept
