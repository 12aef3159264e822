/** What is asked of the quick answers, and what came of it: asked anew whenever something changes that the answer depends on. */
import { api, need } from '../../api/client';
import { Asked } from '../../api/asked';
import type { Answer, Ask, Rack } from '../../api/types';
import { show } from '../../lib/units/units';
import { session } from '../../app/session.svelte';
import { QUESTIONS } from './questions';

type Scale = { n: number; name: string };
const KERF_STARTS = { strips: [10, 98.4], gap: [5, 5.16], peg: [5, 4.84] } as const;
const OTHER: Partial<Record<keyof Ask, Partial<Ask>>> = { real: { model: null }, model: { real: null } };

export class Asking {
	rack = $state.raw<Rack | null>(null);
	scales = $state.raw<Scale[]>([]);
	at = $state(0);
	sheet = $state('');
	mate = $state('');
	feel = $state<'slides' | 'snug' | 'mallet'>('snug');
	test = $state<'strips' | 'gap' | 'peg'>('strips');
	ends = $state<'yes' | 'no'>('yes');
	out = $state.raw<Answer | null>(null);
	problem = $state('');
	/** What was typed, by question, so that going to and fro loses nothing. */
	#typed = $state<Record<string, Partial<Ask>>>({});
	#asked = new Asked();

	q = $derived(QUESTIONS[this.at]!);
	given = $derived({ ...this.q.start, ...this.#typed[this.q.kind] } as Partial<Ask>);
	fields = $derived(this.q.fields.filter((f) => !(this.q.kind === 'kerf' && f.key === 'count' && this.test !== 'strips')));

	constructor(kind: string | null) {
		this.at = Math.max(
			QUESTIONS.findIndex((q) => q.kind === kind),
			0
		);
		$effect(() => void this.#ask());
	}
	async #ask() {
		if (!this.rack) return;
		const { q, sheet, mate } = this;
		const body = {
			kind: q.kind,
			...this.given,
			feel: this.feel,
			test: this.test,
			gaps_at_ends: this.ends === 'yes',
			sheet: q.sheet && sheet ? Number(sheet) : null,
			mate: q.mate && mate ? Number(mate) : null
		} as Ask;
		try {
			const answer = await this.#asked.only(need(api.POST('/api/answers', { body })));
			if (answer) [this.out, this.problem] = [answer, ''];
		} catch (e) {
			[this.out, this.problem] = [null, (e as Error).message];
		}
	}
	stock = (wanted: string) => this.rack?.stocks.find((s) => s.id === wanted);
	put(key: keyof Ask, value: number | null) {
		this.#typed = { ...this.#typed, [this.q.kind]: { ...this.#typed[this.q.kind], ...OTHER[key], [key]: value } };
	}
	chooseFeel(feel: Asking['feel']) {
		this.feel = feel;
		this.put('clearance', null);
	}
	chooseTest(test: Asking['test']) {
		this.test = test;
		const [drawn, measured] = KERF_STARTS[test];
		this.#typed = { ...this.#typed, kerf: { count: 10, drawn, measured } };
	}
}

/** A result as it is read: a length in the reader's unit, an angle, a count. */
export const figure = (r: Pick<Answer['results'][number], 'kind' | 'value'>) =>
	r.kind === 'mm'
		? show(r.value, session.unit, true)
		: r.kind === 'deg'
			? `${Number(r.value.toFixed(2))}°`
			: String(Number(r.value.toFixed(r.kind === 'count' ? 0 : 4)));
