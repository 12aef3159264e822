/** The rack: all stocks of the shop, and what a person does with one of them. */
import { api, need } from '../../api/client';
import type { Rack, StockOut } from '../../api/types';

export const SPOTS = [
	{ x: 0.06, y: 0.9 },
	{ x: 0.94, y: 0.9 },
	{ x: 0.5, y: 0.5 },
	{ x: 0.06, y: 0.1 },
	{ x: 0.94, y: 0.1 },
	{ x: 0.5, y: 0.9 },
	{ x: 0.5, y: 0.1 }
];

export class RackState {
	rack = $state.raw<Rack | null>(null);
	chosen = $state('');
	/** The field for the next caliper reading, when it is on screen. */
	focusReading: () => void = () => {};
	stock = $derived(this.rack?.stocks.find((s) => s.value.id === this.chosen) ?? this.rack?.stocks[0] ?? null);
	groups = $derived.by(() => {
		// in the order of families, which is the order of use
		const by = new Map<string, StockOut[]>();
		for (const f of this.rack?.families ?? []) by.set(f.label, []);
		for (const s of this.rack?.stocks ?? []) by.set(s.family_label, [...(by.get(s.family_label) ?? []), s]);
		return [...by].filter(([, stocks]) => stocks.length);
	});
	/** The next spot that has no reading near it. */
	spot = $derived.by(() => {
		const taken = this.stock?.readings ?? [];
		const free = SPOTS.find((s) => !taken.some((r) => Math.hypot(r.x - s.x, r.y - s.y) < 0.08));
		return (
			free ?? {
				x: 0.2 + 0.6 * ((taken.length * 0.37) % 1),
				y: 0.2 + 0.6 * ((taken.length * 0.61) % 1)
			}
		);
	});

	constructor(private readonly changed: () => Promise<void> | void) {}

	async load() {
		this.rack = await need(api.GET('/api/rack'));
	}
	private async put(asked: Promise<StockOut>, withdrawn: typeof this.withdrawn = null) {
		const row = await asked;
		this.withdrawn = withdrawn;
		const stocks = this.rack!.stocks;
		const known = stocks.some((s) => s.value.id === row.value.id);
		this.rack = {
			...this.rack!,
			stocks: known ? stocks.map((s) => (s.value.id === row.value.id ? row : s)) : [...stocks, row]
		};
		this.chosen = row.value.id;
		void this.changed(); // the strip follows by itself; the next reading need not wait for it
	}
	private get path() {
		return { path: { stock_id: Number(this.stock!.value.id) } };
	}
	read(thickness_mm: number, at = this.spot) {
		return this.put(
			need(
				api.POST('/api/stocks/{stock_id}/readings', {
					params: this.path,
					body: { thickness_mm, x: at.x, y: at.y }
				})
			)
		);
	}
	/** The reading withdrawn last, so that it can be put back. */
	withdrawn = $state.raw<StockOut['readings'][number] | null>(null);
	async withdrawReading(reading: StockOut['readings'][number], withdrawn: boolean) {
		const params = { path: { reading_id: reading.id } };
		await this.put(need(api.PUT('/api/readings/{reading_id}', { params, body: { withdrawn } })), withdrawn ? reading : null);
	}
	testKerf(kind: 'strips' | 'gap' | 'peg', drawn_mm: number, measured_mm: number, count: number) {
		return this.put(
			need(
				api.POST('/api/stocks/{stock_id}/kerf-tests', {
					params: this.path,
					body: { kind, drawn_mm, measured_mm, count }
				})
			)
		);
	}
	withdrawTest(id: number) {
		const params = { path: { test_id: id } };
		return this.put(need(api.PUT('/api/kerf-tests/{test_id}', { params, body: { withdrawn: true } })));
	}
	addStock(body: { name: string; family: string; label_mm: number; colour: string; shelf: string }) {
		return this.put(need(api.POST('/api/stocks', { body })));
	}
	shelve(body: { name: string; width_mm: number; height_mm: number; count: number; price: number; is_offcut: boolean }) {
		return this.put(need(api.POST('/api/stocks/{stock_id}/sheets', { params: this.path, body })));
	}
	countSheets(id: number, count: number) {
		return this.put(
			need(
				api.PUT('/api/sheets/{sheet_id}/count', {
					params: { path: { sheet_id: id } },
					body: { count }
				})
			)
		);
	}
	keepSettings(settings: StockOut['settings']) {
		return this.put(need(api.PUT('/api/stocks/{stock_id}/settings', { params: this.path, body: { settings } })));
	}
}
