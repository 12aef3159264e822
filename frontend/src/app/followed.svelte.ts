/** What a station shows: asked for anew when the project changes, and again and again while a job works on it. */
import { untrack } from 'svelte';
import { Asked } from '../api/asked';
import { repeated } from '../lib/ui/again';
import { Attempt } from '../lib/ui/attempt.svelte';
import { askAgain, underWay, type Job } from '../lib/ui/jobs';
import type { ProjectState } from './project.svelte';

export class Followed<T extends { job?: Job }> {
	out = $state.raw<T | null>(null);
	readonly attempt = new Attempt();
	readonly busy = $derived(underWay(this.out?.job));
	readonly #asked = new Asked();

	/**
	 * To be made while its screen is set up. What a changed project calls for is `load`, and what a job at work does is `again`:
	 * the question alone where they are not given.
	 */
	constructor(
		private readonly work: ProjectState,
		private readonly question: () => Promise<T>,
		{ load = () => this.look(), again = () => this.look() }: { load?: () => unknown; again?: () => unknown } = {}
	) {
		const every = $derived(askAgain(this.out?.job));
		$effect(() => {
			void work.version;
			untrack(() => void load());
		});
		$effect(() => {
			if (!every) return;
			return repeated(every, async () => {
				await again();
				if (!this.busy) await work.refreshStrip();
			});
		});
	}
	/** Ask; an answer that was overtaken by a later one is not shown. */
	look = () => this.attempt.at(() => this.ask());
	async ask() {
		this.show(await this.#asked.newest(this.question()));
	}
	show(told: T | undefined) {
		this.out = told ?? this.out;
	}
	/** What a change came to; what was asked before it counts no more. */
	async change(request: Promise<T>) {
		this.out = await this.#asked.changed(request);
		await this.work.refreshStrip();
	}
	/** An answer that came with something else. */
	taken(told: T) {
		void this.#asked.newest(Promise.resolve(told)).then((newest) => this.show(newest));
		void this.work.refreshStrip();
	}
}
