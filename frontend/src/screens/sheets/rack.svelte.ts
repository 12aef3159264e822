/** The rack: all stocks of the shop in short, one of them in full, and what a person does with it. */
import { api, need } from '../../api/client';
import { ReadingQueue } from './readings.svelte';
import type { Unit } from '../../lib/units/units';
import type { CardOut, CardRow, Machine, Rack, RackRow, StockOut } from '../../api/types';

export const SPOTS = [
	{ x: 0.06, y: 0.9 },
	{ x: 0.94, y: 0.9 },
	{ x: 0.5, y: 0.5 },
	{ x: 0.06, y: 0.1 },
	{ x: 0.94, y: 0.1 },
	{ x: 0.5, y: 0.9 },
	{ x: 0.5, y: 0.1 }
];
/** What lies on the mat: the sheet, a test card, or one of the tools. */
export type Pane = 'sheet' | 'card' | 'record' | 'contrast' | 'machine' | 'files';
type Reading = StockOut['readings'][number];
type KerfBody = { kind: 'strips' | 'gap' | 'peg'; drawn_mm: number; measured_mm: number; below_mm: number | null; count: number };

export class RackState {
	rack = $state.raw<Rack | null>(null);
	stock = $state.raw<StockOut | null>(null);
	cards = $state.raw<CardRow[]>([]);
	/** What would make the numbers of this stock better. */
	advice = $derived(this.stock?.advice ?? []);
	card = $state.raw<CardOut | null>(null);
	pane = $state<Pane>('sheet');
	filter = $state('');
	/** Id of the machine that numbers are shown for; empty for the shop's first. */
	machineId = $state('');
	machine = $derived.by((): Machine | null => {
		const all = this.rack?.machines ?? [];
		return all.find((m) => m.id === this.machineId) ?? all[0] ?? null;
	});
	/** The field for the next caliper reading, when it is on screen. */
	focusReading: () => void = () => {};
	found = $derived.by(() => {
		const words = this.filter.trim().toLowerCase().split(/\s+/).filter(Boolean);
		return (this.rack?.stocks ?? []).filter((s) => words.every((w) => matches(s, w)));
	});
	groups = $derived.by(() => {
		// in the order of materials, which is the order of use
		const by = new Map<string, RackRow[]>();
		for (const f of this.rack?.materials ?? []) by.set(f.label, []);
		for (const s of this.found) by.set(s.material_label, [...(by.get(s.material_label) ?? []), s]);
		return [...by].filter(([, stocks]) => stocks.length);
	});
	readings = $derived((this.stock?.readings ?? []).filter((r) => !r.withdrawn && !r.borrowed));
	kerfTests = $derived((this.stock?.kerf_tests ?? []).filter((t) => !t.withdrawn));
	/** Readings that were typed and are on their way, on the stock that lies here. */
	typed = new ReadingQueue((mm, at, stock) => this.readFor(stock, mm, at));
	/** A stock that is being put on the rack: its readings can be typed already. */
	coming = $state.raw<{ name: string; id: Promise<string> } | null>(null);
	/** The stock that lies on the mat, or will as soon as the server has answered. */
	get target(): Promise<string> {
		return this.coming?.id ?? Promise.resolve(this.asked || this.stock!.value.id);
	}
	/** The next spot that has no reading near it. */
	spot = $derived.by(() => {
		const taken = [...(this.coming ? [] : this.readings), ...this.typed.waiting];
		const free = SPOTS.find((s) => !taken.some((r) => Math.hypot(r.x - s.x, r.y - s.y) < 0.08));
		return (
			free ?? {
				x: 0.2 + 0.6 * ((taken.length * 0.37) % 1),
				y: 0.2 + 0.6 * ((taken.length * 0.61) % 1)
			}
		);
	});

	constructor(
		private readonly changed: () => Promise<void> | void,
		readonly mates: () => string[] = () => []
	) {}

	private get query() {
		return { machine: this.machine ? Number(this.machine.id) : null, mates: this.mates().join(',') };
	}
	private get at() {
		return { path: { stock_id: Number(this.stock!.value.id) }, query: this.query };
	}

	async load() {
		const machine = this.machineId ? Number(this.machineId) : null;
		this.rack = await need(api.GET('/api/rack', { params: { query: { machine } } }));
	}
	async useMachine(id: string) {
		this.machineId = id;
		this.card = null;
		if (this.pane === 'card') this.pane = 'sheet';
		await this.load();
		if (this.stock) await this.choose(this.stock.value.id);
	}

	private asked = $state('');
	/** Lay a stock on the mat; the last one asked for wins. */
	async choose(id: string) {
		this.asked = id;
		const params = { path: { stock_id: Number(id) }, query: this.query };
		const got = await Promise.all([need(api.GET('/api/stocks/{stock_id}', { params })), this.cardsOf(id)]);
		if (this.asked !== id) return;
		[this.stock, this.cards] = got;
		this.withdrawn = null;
		if (this.pane === 'card') this.pane = 'sheet';
	}
	private cardsOf(id: string) {
		const params = { path: { stock_id: Number(id) }, query: { machine: this.query.machine } };
		return need(api.GET('/api/stocks/{stock_id}/cards', { params }));
	}
	/** Take what the server says of the stock after a change, with its row in the rack; the strip follows by itself. */
	private async put(asked: Promise<StockOut>, withdrawn: Reading | null = null, of = this.asked) {
		const before = of;
		this.underway += 1;
		if (this.underway > 1) this.crossed = true;
		const row = await asked.finally(() => (this.underway -= 1));
		void this.changed();
		this.list(row);
		if (this.asked !== before) return; // another stock lies on the mat by now
		this.asked = row.value.id;
		this.stock = row;
		this.withdrawn = withdrawn;
		if (this.crossed && !this.underway) await this.seeAgain(row.value.id);
	}
	/** Changes that are on their way, and whether some were so at once: then an answer may not know of the others. */
	private underway = 0;
	private crossed = false;
	private async seeAgain(id: string) {
		this.crossed = false;
		const params = { path: { stock_id: Number(id) }, query: this.query };
		const row = await need(api.GET('/api/stocks/{stock_id}', { params }));
		this.list(row);
		if (this.asked === id && !this.underway) this.stock = row;
	}
	private list({ row }: StockOut) {
		if (!this.rack) return;
		const stocks = this.rack.stocks.some((s) => s.id === row.id)
			? this.rack.stocks.map((s) => (s.id === row.id ? row : s))
			: [...this.rack.stocks, row].sort(
					(a, b) => a.material.localeCompare(b.material) || a.label_mm - b.label_mm || Number(a.id) - Number(b.id)
				);
		this.rack = { ...this.rack, stocks };
	}
	private async seeCards(id: string) {
		try {
			const cards = await this.cardsOf(id);
			if (this.asked === id) this.cards = cards;
		} catch {
			/* the line is lost for a moment: the next change tells */
		}
	}

	private readFor(stock: string, thickness_mm: number, at: { x: number; y: number }) {
		const params = { path: { stock_id: Number(stock) }, query: this.query };
		const kept = need(api.POST('/api/stocks/{stock_id}/readings', { params, body: { thickness_mm, x: at.x, y: at.y } }));
		return this.put(kept, null, stock);
	}
	read(thickness_mm: number, at = this.spot) {
		return this.put(need(api.POST('/api/stocks/{stock_id}/readings', { params: this.at, body: { thickness_mm, x: at.x, y: at.y } })));
	}
	paste(text: string, unit: Unit) {
		return this.put(need(api.POST('/api/stocks/{stock_id}/readings/pasted', { params: this.at, body: { text, unit } })));
	}
	/** The reading withdrawn last, so that it can be put back. */
	withdrawn = $state.raw<Reading | null>(null);
	withdrawReading(reading: Reading, withdrawn: boolean) {
		const params = { path: { reading_id: reading.id }, query: this.query };
		return this.put(need(api.PUT('/api/readings/{reading_id}', { params, body: { withdrawn } })), withdrawn ? reading : null);
	}
	testKerf(body: KerfBody) {
		return this.put(need(api.POST('/api/stocks/{stock_id}/kerf-tests', { params: this.at, body })));
	}
	withdrawTest(id: number, withdrawn: boolean) {
		const params = { path: { test_id: id }, query: this.query };
		return this.put(need(api.PUT('/api/kerf-tests/{test_id}', { params, body: { withdrawn } })));
	}
	withdrawFeel(id: number, withdrawn: boolean) {
		const params = { path: { feel_id: id }, query: this.query };
		return this.put(need(api.PUT('/api/feels/{feel_id}', { params, body: { withdrawn } })));
	}
	withdrawSettings(id: number, withdrawn: boolean) {
		const params = { path: { settings_id: id }, query: this.query };
		return this.put(need(api.PUT('/api/settings/{settings_id}', { params, body: { withdrawn } })));
	}
	async addStock(body: {
		name: string;
		material: string;
		label_mm: number;
		substance: string;
		look: string;
		batch: string;
		shelf: string;
		colour: string;
	}) {
		const made = need(api.POST('/api/stocks', { params: { query: this.query }, body }));
		const id = made.then((row) => row.value.id);
		id.catch(() => {}); // told below; readings that wait for it are told one by one
		const coming = { name: body.name, id };
		[this.coming, this.pane] = [coming, 'sheet'];
		try {
			await this.put(made);
		} finally {
			if (this.coming === coming) this.coming = null;
		}
	}
	changeStock(body: Partial<Record<string, unknown>>) {
		return this.put(need(api.PATCH('/api/stocks/{stock_id}', { params: this.at, body: body as never })));
	}
	confirmData(data: string) {
		return this.put(need(api.PUT('/api/stocks/{stock_id}/makers-data', { params: this.at, body: { data } })));
	}
	async removeStock() {
		await need(api.DELETE('/api/stocks/{stock_id}', { params: { path: this.at.path } }));
		await this.load();
		this.stock = null;
		const next = this.rack?.stocks[0];
		if (next) await this.choose(next.id);
	}
	borrow(stock: number, machine: number) {
		return this.put(need(api.POST('/api/stocks/{stock_id}/borrow', { params: this.at, body: { stock, machine } })));
	}
	shelve(body: {
		name: string;
		width_mm: number;
		height_mm: number;
		count: number;
		price: number;
		grain: string;
		place: string;
		is_offcut: boolean;
		outline: [number, number][];
		bad: [number, number][][];
	}) {
		return this.put(need(api.POST('/api/stocks/{stock_id}/sheets', { params: this.at, body })));
	}
	shelveBlanks(id: number, saw_mm: number, sheets: number) {
		const params = { path: { sheet_id: id }, query: this.query };
		return this.put(need(api.POST('/api/sheets/{sheet_id}/cut-down', { params, body: { saw_mm, sheets } })));
	}
	changeSheets(id: number, body: { count?: number; price?: number; grain?: string }) {
		return this.put(need(api.PATCH('/api/sheets/{sheet_id}', { params: { path: { sheet_id: id }, query: this.query }, body })));
	}
	keepSettings(settings: StockOut['settings'], tried: ('cut' | 'score' | 'engrave')[]) {
		return this.put(need(api.PUT('/api/stocks/{stock_id}/settings', { params: this.at, body: { settings, tried } })));
	}

	// -- test cards ----------------------------------------------------------------------------------------------------
	async makeCard(kind: string, tongue: string | null = null) {
		const body = { kind, tongue: tongue ? Number(tongue) : null };
		const params = { path: this.at.path, query: { machine: this.query.machine } };
		this.card = await need(api.POST('/api/stocks/{stock_id}/cards', { params, body }));
		this.pane = 'card';
		await this.seeCards(this.stock!.value.id);
	}
	async openCard(id: number) {
		this.card = await need(api.GET('/api/cards/{card_id}', { params: { path: { card_id: id } } }));
		this.pane = 'card';
	}
	private entries: Promise<unknown> = Promise.resolve();
	private pending: { cell: string; value: Record<string, unknown> | null }[] = [];
	/** Enter what was found in a cell of the card; null takes it back. It shows at once; what is typed meanwhile goes to the server together. */
	enter(cell: string, value: Record<string, unknown> | null): Promise<void> {
		const card = this.card!;
		const results = card.found.results.map((r) => (r.cell === cell ? { ...r, withdrawn: true } : r));
		const shown = { id: -Date.now(), cell, value: value ?? {}, by: '', on: '', withdrawn: value === null };
		this.card = { ...card, found: { ...card.found, results: [...results, shown] } };
		this.pending.push({ cell, value });
		const turn = this.entries.then(() => this.flush(card.id));
		this.entries = turn.catch(() => {});
		return turn;
	}
	private async flush(card: number) {
		if (!this.pending.length) return; // went with the ones before
		const entries = this.pending;
		this.pending = [];
		try {
			const params = { path: { card_id: card } };
			const found = await need(api.PUT('/api/cards/{card_id}/results', { params, body: { entries } }));
			if (!this.pending.length && this.card?.id === card) this.card = { ...this.card, found };
		} catch (e) {
			this.pending = [];
			if (this.card?.id === card) await this.openCard(card);
			throw e;
		}
		if (!this.pending.length) void this.again();
	}
	async settle(cell: string | null, accepted_char: number) {
		const params = { path: { card_id: this.card!.id } };
		await this.entries;
		const found = await need(api.POST('/api/cards/{card_id}/settings', { params, body: { cell, accepted_char } }));
		this.card = { ...this.card!, found };
		await this.again();
	}
	/** Read the stock again: a card's result changed what it gives. */
	private again() {
		void this.seeCards(this.asked);
		return this.put(need(api.GET('/api/stocks/{stock_id}', { params: this.at })));
	}
}

/** Whether a stock answers to a word of the filter: part of its name, material, place or batch, or its thickness. */
function matches(s: RackRow, word: string): boolean {
	const number = Number(word.replace(',', '.'));
	if (Number.isFinite(number)) {
		if (Math.abs(s.thickness_mm - number) <= 0.15 || Math.abs(s.label_mm - number) <= 0.05) return true;
	}
	return `${s.name} ${s.material_label} ${s.shelf} ${s.batch}`.toLowerCase().includes(word);
}
