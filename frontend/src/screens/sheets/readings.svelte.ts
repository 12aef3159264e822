/** Readings as they are typed: shown at once, sent in order, each to the stock that lay there when it was typed; what fails is told and kept. */
import { api, need } from '../../api/client';
import { bareFigure, type Unit } from '../../lib/units/units';

export interface Typed {
	/** tells one from another */
	key: number;
	text: string;
	unit: Unit;
	x: number;
	y: number;
	/** the stock that it is of; one that is only being made has no id yet */
	stock: Promise<string>;
	/** why it was not kept */
	wrong: string;
}
type Keep = (mm: number, at: { x: number; y: number }, stock: string) => Promise<void>;

export class ReadingQueue {
	/** what stands in the field and was not entered yet */
	text = $state('');
	/** why what stands in the field again is no length */
	unread = $state('');
	waiting = $state.raw<Typed[]>([]);
	failed = $derived(this.waiting.filter((t) => t.wrong));
	private keys = 0;
	private turn: Promise<void> = Promise.resolve();

	constructor(private readonly keep: Keep) {}

	/** Enter what was typed; the field is free for the next one at once. */
	enter(text: string, unit: Unit, at: { x: number; y: number }, stock: Promise<string>): void {
		const typed = { key: ++this.keys, text: text.trim(), unit, x: at.x, y: at.y, stock, wrong: '' };
		if (!typed.text) return;
		this.unread = '';
		this.waiting = [...this.waiting, typed];
		this.send(typed);
	}
	/** Once more with what a person made of it. */
	again(key: number, text: string): void {
		const typed = this.waiting.find((t) => t.key === key);
		if (!typed) return;
		const mended = { ...typed, text: text.trim(), wrong: '' };
		this.waiting = this.waiting.map((t) => (t.key === key ? mended : t));
		this.send(mended);
	}
	drop(key: number): void {
		this.waiting = this.waiting.filter((t) => t.key !== key);
	}
	/** Until everything that was entered is kept or told. */
	settled(): Promise<void> {
		return this.turn;
	}

	private send(typed: Typed): void {
		this.turn = this.turn.then(async () => {
			try {
				const mm = await this.read(typed).catch((e: Error) => this.handBack(typed, e));
				if (mm === null) return;
				await this.keep(mm, typed, await typed.stock);
				this.drop(typed.key);
			} catch (e) {
				const wrong = (e as Error).message;
				this.waiting = this.waiting.map((t) => (t.key === typed.key ? { ...t, wrong } : t));
			}
		});
	}
	/** What makes no sense goes back into the field where nothing else was typed meanwhile. */
	private handBack(typed: Typed, why: Error): null {
		if (this.text || this.waiting.length > 1) throw why;
		this.drop(typed.key);
		[this.text, this.unread] = [typed.text, why.message];
		return null;
	}
	private async read(typed: Typed): Promise<number> {
		const bare = typed.unit === 'mm' ? bareFigure(typed.text) : null;
		return bare ?? (await need(api.POST('/api/numbers', { body: { text: typed.text, unit: typed.unit } }))).value;
	}
}
