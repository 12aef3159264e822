/** Features again: beside themselves, in rows, and mirrored about the middle of their panel. */
import type { Feature } from '../../api/types';
import { freshName } from './moves';

type Anchored = Feature & { anchor?: string; x?: number; y?: number };

/** Whether letters or a layer of a drawing made this way are pieces of their own. */
export const isPieces = (how: string | null | undefined) => how === 'glued' || how === 'inlaid' || how === 'pocket';

const again = (f: Feature, id: string, dx: number, dy: number) =>
	({ ...f, id, x: ((f as Anchored).x ?? 0) + dx, y: ((f as Anchored).y ?? 0) + dy }) as Feature;

/** So many more of a feature, each so far from the one before [mm]. */
export function inRow(f: Feature, more: number, dx: number, dy: number, taken: ReadonlySet<string>): Feature[] {
	const names = new Set(taken);
	return Array.from({ length: more }, (_, i) => {
		const id = freshName(f.kind, names);
		names.add(id);
		return again(f, id, dx * (i + 1), dy * (i + 1));
	});
}

const A_LETTER = 0.85; // of its height that a capital is wide, with what is beside it

/** What a new feature starts with, made smaller where its panel is too small for it: sizes in mm, to half a millimetre. */
export function fitting(kind: string, usual: Readonly<Record<string, unknown>>, panel: { w: number; h: number }): Record<string, unknown> {
	const down = (name: string, most: number) => Math.max(Math.min(Number(usual[name]), Math.floor(most * 2) / 2), 1);
	const { w, h } = panel;
	if (kind === 'text') return { cap: down('cap', Math.min((0.9 * w) / (A_LETTER * String(usual.words).length), 0.5 * h)) };
	if (kind === 'window') {
		const [width, height] = [down('width', 0.6 * w), down('height', 0.6 * h)];
		return { width, height, radius: Math.min(Number(usual.radius), width / 4, height / 4) };
	}
	if (kind === 'ring') return { radius: down('radius', 0.35 * Math.min(w, h)) };
	if (kind === 'scale') return { run: Math.max(down('run', 0.9 * w), 5) };
	return {};
}

const LINES = new Set(['text', 'scale']); // they run across: the next one lies above or below
const APART = 10; // [mm] at least from a new feature to the one that is there

/** Where a new feature begins: in its usual place, or as near to it as none of its panel's others has its own [mm]. */
export function freePlace(
	made: Readonly<Record<string, unknown>>,
	others: readonly Feature[],
	panel: { w: number; h: number }
): { x?: number; y?: number } {
	const [x, y] = [Number(made.x ?? 0), Number(made.y ?? 0)];
	const beside = others.filter((f) => ((f as Anchored).anchor ?? 'centre') === (made.anchor ?? 'centre')) as Anchored[];
	const along = LINES.has(String(made.kind)) ? 'y' : 'x';
	const own = along === 'y' ? 2 * Number(made.cap ?? APART) : Number(made.width ?? made.diameter ?? 0) + APART;
	const step = Math.max(own, APART);
	const most = (along === 'y' ? panel.h : panel.w) / 2 - step / 2;
	for (let k = 0; ; k = k > 0 ? -k : 1 - k) {
		if (Math.abs(k) * step > most) return {}; // no room: it lies over what is there, and that is told
		const at = along === 'y' ? { x, y: y - k * step } : { x: x + k * step, y };
		if (!beside.some((f) => Math.abs((f.x ?? 0) - at.x) < step / 2 && Math.abs((f.y ?? 0) - at.y) < step / 2)) return k ? at : {};
	}
}

const OTHER: Record<string, string> = { left: 'right', right: 'left' };

/** A feature at the mirrored place of its panel; what has a hand is mirrored, what is read is not. */
export function mirroredFeature(f: Feature, id: string): Feature {
	const at = f as Anchored;
	const anchor = (at.anchor ?? 'centre').replace(/left|right/, (side) => OTHER[side]!);
	const made = { ...f, id, anchor, x: -(at.x ?? 0) } as Record<string, unknown>;
	if (f.kind === 'scale') made.x = -(at.x ?? 0) - Number(made.run ?? 100);
	if (f.kind === 'ring') made.start = (((180 - Number(made.start ?? 0) - ringSweep(made)) % 360) + 360) % 360;
	if (f.kind === 'socket') made.upright = -Number(made.upright ?? 0);
	if (f.kind === 'artwork') {
		made.turn = -Number(made.turn ?? 0);
		made.drawn = made.drawn === 'mirrored' ? 'plain' : 'mirrored';
	}
	return made as unknown as Feature;
}

/** A whole circle of holes has none at its end: it is mirrored about its first one. */
function ringSweep(ring: Record<string, unknown>): number {
	const sweep = Number(ring.sweep ?? 360);
	return sweep === 360 ? 0 : sweep;
}
