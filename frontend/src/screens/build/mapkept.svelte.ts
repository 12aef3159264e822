/** The map of a set of tiles, as it is shown while changes are on their way. */
import type { ProjectState } from '../../app/project.svelte';
import type { TileMap } from './tilemap';

const mapOf = (numbers: unknown): TileMap => {
	const v = numbers as { tiles_at?: TileMap['tiles']; walls_at?: TileMap['walls']; pieces_at?: TileMap['pieces'] };
	return { tiles: v.tiles_at ?? [], walls: v.walls_at ?? [], pieces: v.pieces_at ?? [] };
};

export class MapKept {
	private draft = $state.raw<TileMap | null>(null);
	private underway = 0;

	constructor(private readonly work: ProjectState) {}

	get map(): TileMap {
		return this.draft ?? mapOf(this.work.design.numbers);
	}

	/** Show a change at once, and make it of what the map has become when its turn comes. */
	async keep(change: (now: TileMap) => TileMap, words: string) {
		const next = change(this.map);
		if (next === this.map) return;
		this.draft = next;
		this.underway += 1;
		try {
			await this.work.save((d) => {
				const { tiles, walls, pieces } = change(mapOf(d.numbers));
				return { ...d, numbers: { ...d.numbers, tiles_at: tiles, walls_at: walls, pieces_at: pieces } as never };
			}, words);
		} finally {
			this.underway -= 1;
			if (!this.underway) this.draft = null;
		}
	}
}
