/** A part in the hand: lifted off its sheet, moved and turned, put down again; the core says whether it may lie there. */
import { api, need, Problem } from '../../api/client';
import type { LayoutOut, Profile, SheetLayout } from '../../api/types';
import { copyId } from '../../lib/ids';
import { boundsOf, type Place } from '../../lib/mat/outlines';
import { keepsMargin, placedRing, tooNear, type Lying } from './clash';
import { word } from '../../words/words';

type Placement = SheetLayout['placements'][number];
/** A sheet and where its corner lies on the mat [mm]. */
export interface OnMat {
	sheet: SheetLayout;
	x: number;
	y: number;
}
export interface Held {
	part: string;
	copy: number;
	turn: number;
	/** it lies on its back */
	mirrored: boolean;
	/** where its origin is on the mat [mm] */
	x: number;
	y: number;
	/** it may not lie here */
	bad: boolean;
	/** it was put down where it may not lie: settle it, or put it back */
	refused: boolean;
}

export class ByHand {
	held = $state.raw<Held | null>(null);
	problem = $state('');
	private queue: Promise<void> = Promise.resolve();

	constructor(
		private readonly id: number,
		private readonly now: () => LayoutOut,
		private readonly sheets: () => OnMat[],
		private readonly take: (told: LayoutOut) => void
	) {}

	private profile = (part: string): Profile => this.now().parts.find((p) => p.id === part)!.profile;
	private lying(part: string, place: Place): Lying {
		const profile = this.profile(part);
		const ring = (r: readonly (readonly number[])[]) => placedRing(r, place);
		return { outer: ring(profile.outer), holes: (profile.holes ?? []).map(ring) };
	}
	private found(key: string): { on: OnMat; at: Placement } | null {
		for (const on of this.sheets()) {
			const at = on.sheet.placements.find((p) => copyId(p) === key);
			if (at) return { on, at };
		}
		return null;
	}

	/** Take a part off its sheet; null when it is locked or does not lie on one. */
	lift(key: string): Held | null {
		const found = this.found(key);
		if (!found || this.isLocked(key)) return null;
		const { on, at } = found;
		this.problem = '';
		const place = { turn: at.turn, mirrored: at.mirrored ?? false, x: on.x + at.x, y: on.y + at.y };
		return (this.held = { part: at.part, copy: at.copy, ...place, bad: false, refused: false });
	}
	isLocked(key: string): boolean {
		return this.now().locked.some((p) => copyId({ part: p.part, copy: p.number }) === key);
	}

	/** The sheet on which the middle of a part lies; the nearest one otherwise. */
	private under(h: Held): OnMat {
		const b = boundsOf(this.lying(h.part, h).outer);
		const [mx, my] = [(b.x0 + b.x1) / 2, (b.y0 + b.y1) / 2];
		const far = (s: OnMat) => Math.hypot(Math.max(s.x - mx, 0, mx - s.x - s.sheet.width), Math.max(s.y - my, 0, my - s.y - s.sheet.height));
		return this.sheets().reduce((best, s) => (far(s) < far(best) ? s : best));
	}
	private isBad(h: Held): boolean {
		const on = this.under(h);
		const part = this.now().parts.find((p) => p.id === h.part)!;
		if (part.stock !== on.sheet.stock) return true;
		const { margin_mm, spacing_mm, spacing, common } = this.now().request;
		const apart = common ? 0 : (spacing?.[part.stock] ?? spacing_mm); // the beam's width is settled by the core
		const mine = this.lying(h.part, { ...h, x: h.x - on.x, y: h.y - on.y });
		if (!keepsMargin(mine, on.sheet.ring, margin_mm)) return true;
		if ((on.sheet.bad ?? []).some((ring) => tooNear(mine, { outer: ring as number[][], holes: [] }, apart))) return true;
		return on.sheet.placements.some((p) => copyId(p) !== copyId(h) && tooNear(mine, this.lying(p.part, p), apart));
	}
	private put(h: Held) {
		this.held = { ...h, bad: this.isBad(h) };
	}
	drag(dx: number, dy: number) {
		if (this.held) this.put({ ...this.held, x: this.held.x + dx, y: this.held.y + dy, refused: false });
	}
	/** Turn what is held to the next way it may lie, about its middle. */
	turn() {
		const h = this.held;
		if (!h) return;
		const turns = this.now().parts.find((p) => p.id === h.part)!.turns;
		this.lay({ ...h, turn: turns[(turns.indexOf(h.turn) + 1) % turns.length]! });
	}
	/** Whether a part may lie on its back. */
	hasBack = (part: string) => this.now().parts.find((p) => p.id === part)?.backed ?? false;
	/** Turn what is held over, about its middle. */
	turnOver() {
		const h = this.held;
		if (h && this.hasBack(h.part)) this.lay({ ...h, turn: (360 - h.turn) % 360, mirrored: !h.mirrored });
	}
	/** Lay what is held another way, its middle where it was. */
	private lay(other: Held) {
		const middle = (h: Held) => {
			const b = boundsOf(this.lying(h.part, { ...h, x: 0, y: 0 }).outer);
			return [(b.x0 + b.x1) / 2, (b.y0 + b.y1) / 2] as const;
		};
		const [before, after] = [middle(this.held!), middle(other)];
		this.put({ ...other, x: other.x + before[0] - after[0], y: other.y + before[1] - after[1], refused: false });
	}
	back() {
		this.held = null;
		this.problem = '';
	}

	private inTurn(work: () => Promise<void>): Promise<void> {
		return (this.queue = this.queue.then(work, work));
	}
	/** Put down what is held; where it may not lie it stays in the hand and says why. */
	drop(settle = false): Promise<void> {
		return this.inTurn(async () => {
			const h = this.held;
			if (!h) return;
			const on = this.under(h);
			try {
				const body = {
					version: this.now().version,
					part: h.part,
					number: h.copy,
					sheet: on.sheet.sheet,
					sheet_copy: on.sheet.copy,
					turn: h.turn,
					mirrored: h.mirrored,
					x: h.x - on.x,
					y: h.y - on.y,
					settle
				};
				this.take(await need(api.POST('/api/projects/{project_id}/lay-out/move', { params: { path: { project_id: this.id } }, body })));
				this.back();
			} catch (e) {
				this.failed(e);
				if (this.held) this.held = { ...h, bad: true, refused: true };
			}
		});
	}
	/** Move a part a little without taking it up. */
	nudge = (key: string, dx: number, dy: number) => this.quickly(key, () => this.drag(dx, dy));
	/** Turn a part where it lies, to the next turn that it may have or over on its back. */
	turnAt = (key: string, over = false) => this.quickly(key, () => (over ? this.turnOver() : this.turn()));
	private async quickly(key: string, change: () => void) {
		const done = this.inTurn(async () => {
			if (this.held && copyId(this.held) !== key) this.back();
			if (!this.held && !this.lift(key)) return;
			change();
		});
		await done;
		await this.drop();
	}
	lock(key: string, locked: boolean): Promise<void> {
		return this.inTurn(async () => {
			const found = this.found(key);
			if (!found) return;
			const body = { version: this.now().version, parts: [{ part: found.at.part, number: found.at.copy }], locked };
			await this.change(api.POST('/api/projects/{project_id}/lay-out/lock', { params: { path: { project_id: this.id } }, body }));
		});
	}
	/** Lay all parts of a sheet on another one, as they lie. */
	swap(from: { sheet: string; copy: number }, to: { sheet: string; copy: number }): Promise<void> {
		return this.inTurn(() => {
			this.back();
			const body = { version: this.now().version, sheet: from.sheet, sheet_copy: from.copy, to_sheet: to.sheet, to_copy: to.copy };
			return this.change(api.POST('/api/projects/{project_id}/lay-out/swap', { params: { path: { project_id: this.id } }, body }));
		});
	}
	/** Take another of the ways in which the parts were laid out. */
	takeWay(name: string): Promise<void> {
		return this.inTurn(() => {
			this.back();
			const body = { version: this.now().version, name };
			return this.change(api.POST('/api/projects/{project_id}/lay-out/way', { params: { path: { project_id: this.id } }, body }));
		});
	}
	private async change(asked: Parameters<typeof need<LayoutOut>>[0]) {
		try {
			this.problem = '';
			this.take(await need(asked));
		} catch (e) {
			this.failed(e);
		}
	}
	/** Somebody else changed the packing: show theirs, and let go. */
	private failed(e: unknown) {
		if (e instanceof Problem && e.status === 409) {
			this.take(e.facts.answer as LayoutOut);
			this.back();
			this.problem = word('lay-out.somebody-else-changed-the-layout-meanwhi');
		} else this.problem = (e as Error).message;
	}
}
