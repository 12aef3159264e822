/** Answers that come in another order than they were asked for. */
import { describe, expect, it } from 'vitest';
import { Asked } from './asked';

function later<T>() {
	let [answer, fail]: [(value: T) => void, (e: Error) => void] = [() => {}, () => {}];
	const promise = new Promise<T>((yes, no) => ([answer, fail] = [yes, no]));
	return { promise, answer, fail };
}

describe('questions of one kind', () => {
	it('keeps what was asked for later, whatever comes last, and shows an earlier one meanwhile', async () => {
		const asked = new Asked();
		const [a, b, c] = [later<string>(), later<string>(), later<string>()];
		const got = [asked.newest(a.promise), asked.newest(b.promise), asked.newest(c.promise)];
		b.answer('b');
		expect(await got[1]).toBe('b');
		a.answer('a');
		expect(await got[0]).toBeUndefined();
		c.answer('c');
		expect(await got[2]).toBe('c');
	});
	it('wants only the last one where it must fit what is picked now', async () => {
		const asked = new Asked();
		const [a, b] = [later<string>(), later<string>()];
		const got = [asked.only(a.promise), asked.only(b.promise)];
		a.answer('a');
		expect(await got[0]).toBeUndefined();
		b.answer('b');
		expect(await got[1]).toBe('b');
	});
	it('shows what a change came to, whatever was asked while it was on its way', async () => {
		const asked = new Asked();
		const [change, before, after, next] = [later<string>(), later<string>(), later<string>(), later<string>()];
		const made = asked.changed(change.promise);
		const got = [asked.newest(before.promise), asked.newest(after.promise)];
		before.answer('nothing under way');
		expect(await got[0]).toBe('nothing under way'); // answered first: shown until the change is answered
		change.answer('packing');
		expect(await made).toBe('packing');
		after.answer('nothing under way');
		expect(await got[1]).toBeUndefined();
		const now = asked.newest(next.promise);
		next.answer('packed');
		expect(await now).toBe('packed');
	});
	it('lets go of what was asked, and says nothing of its failure', async () => {
		const asked = new Asked();
		const [a, b] = [later<string>(), later<string>()];
		const before = asked.newest(a.promise);
		asked.forget();
		a.fail(new Error('lost'));
		expect(await before).toBeUndefined();
		const now = asked.newest(b.promise);
		b.fail(new Error('lost'));
		await expect(now).rejects.toThrow('lost');
	});
});
