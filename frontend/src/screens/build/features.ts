/** Features again: beside themselves, in rows, and mirrored about the middle of their panel. */
import type { Feature } from '../../api/types';
import { freshName } from './moves';

type Anchored = Feature & { anchor?: string; x?: number; y?: number };

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
