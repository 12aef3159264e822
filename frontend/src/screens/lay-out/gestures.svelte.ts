/** Taking a part off its sheet by pointer or keys: what is pressed where becomes what the hand does. */
import { session } from '../../app/session.svelte';
import { copyId } from '../../lib/ids';
import type { ByHand } from './byhand.svelte';

const FROM = 4; // pixels that a pointer goes before it drags
const NUDGES: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };

/** The part of a copy's id. */
export const partOf = (key: string) => key.slice(0, key.lastIndexOf('.'));
/** How far an arrow key moves a part: a plain step, with Shift, with Alt [mm]. */
const nudges = () => (session.unit === 'mm' ? [1, 10, 0.1] : [1.27, 12.7, 0.127]);

export class Gestures {
	picked = $state('');
	/** where the pointer was, and how many pixels a millimetre is */
	#pointer: { x: number; y: number; scale: number } | null = null;

	constructor(
		private readonly hand: ByHand,
		private readonly movable: () => boolean,
		private readonly locked: () => ReadonlySet<string>
	) {}

	lift(key: string, event: PointerEvent, scale: number) {
		if (!this.movable() || event.button !== 0) return;
		this.picked = key;
		event.stopPropagation(); // the mat stays
		if (this.hand.held && copyId(this.hand.held) !== key) this.hand.back();
		this.#pointer = { x: event.clientX, y: event.clientY, scale };
	}
	drag = (event: PointerEvent) => {
		const from = this.#pointer;
		if (!from) return;
		const [dx, dy] = [event.clientX - from.x, event.clientY - from.y];
		if (!this.hand.held && (Math.hypot(dx, dy) < FROM || !this.hand.lift(this.picked))) return;
		this.hand.drag(dx / from.scale, -dy / from.scale);
		this.#pointer = { ...from, x: event.clientX, y: event.clientY };
	};
	letGo = () => {
		if (this.#pointer && this.hand.held) void this.hand.drop();
		this.#pointer = null;
	};
	key = (copy: string, event: KeyboardEvent) => {
		const { hand } = this;
		const way = NUDGES[event.key];
		if (!this.movable()) return;
		if (way) {
			const by = nudges()[event.shiftKey ? 1 : event.altKey ? 2 : 0]!;
			void hand.nudge(copy, way[0] * by, way[1] * by);
		} else if (event.key === 't') void hand.turnAt(copy);
		else if (event.key === 'b' && hand.hasBack(partOf(copy))) void hand.turnAt(copy, true);
		else if (event.key === 'l') void hand.lock(copy, !this.locked().has(copy));
		else if (event.key === 'Escape' && hand.held) hand.back();
		else return;
		event.preventDefault();
		event.stopPropagation();
	};
}
