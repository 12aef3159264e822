/** A long list keeps only what is near on the page. */
import { render, screen } from '@testing-library/svelte';
import { createRawSnippet, tick } from 'svelte';
import { afterEach, describe, expect, it, vi } from 'vitest';
import LongList from './LongList.svelte';

type Told = { target: Element; isIntersecting: boolean };
let tell: (told: Told[]) => void = () => {};
const watched: Element[] = [];
class Seen {
	constructor(told: (all: Told[]) => void) {
		tell = told;
		watched.length = 0;
	}
	observe(node: Element) {
		watched.push(node);
	}
	disconnect() {}
}
const row = createRawSnippet<[string]>((item) => ({ render: () => `<button>${item()}</button>` }));
const list = (count: number, at = -1) => ({
	items: Array.from({ length: count }, (_, i) => `Rib ${i + 1}`),
	key: (s: string) => s,
	height: 30,
	at,
	row
});
const rows = () => screen.queryAllByRole('button').map((b) => b.textContent);
async function see(...near: number[]) {
	tell(watched.map((target, i) => ({ target, isIntersecting: near.includes(i) })));
	await tick();
}

afterEach(() => vi.unstubAllGlobals());

describe('a long list', () => {
	it('is whole when it is short', () => {
		render(LongList<string>, list(40));
		expect(rows()).toHaveLength(40);
	});
	it('has the rows near what is seen, and room for the others', async () => {
		vi.stubGlobal('IntersectionObserver', Seen);
		render(LongList<string>, list(90));
		expect(watched.map((n) => (n as HTMLElement).style.height)).toEqual(['1200px', '1200px', '300px']);
		await see(1);
		expect([rows()[0], rows().length]).toEqual(['Rib 41', 40]);
		await see(2);
		expect(rows()).toEqual(Array.from({ length: 10 }, (_, i) => `Rib ${i + 81}`));
	});
	it('keeps the row that has the focus', async () => {
		vi.stubGlobal('IntersectionObserver', Seen);
		render(LongList<string>, list(90));
		await see(0);
		screen.getByText('Rib 3').focus();
		await see(2);
		expect(rows()).toHaveLength(50);
		expect(screen.getByText('Rib 3')).toHaveFocus();
	});
	it('comes to the row that is wanted, on the page or not', async () => {
		vi.stubGlobal('IntersectionObserver', Seen);
		const side = document.body.appendChild(document.createElement('nav'));
		side.className = 'side';
		const came = vi.spyOn(HTMLElement.prototype, 'getBoundingClientRect').mockImplementation(function (this: HTMLElement) {
			return { top: this === side ? 50 : 50 + 1200 * Math.max(watched.indexOf(this), 0) - side.scrollTop } as DOMRect;
		});
		const shown = render(LongList<string>, { target: side, props: list(90) });
		await shown.rerender({ at: 85 });
		expect(side.scrollTop).toBe(2 * 1200 + 5 * 30);
		await see(2);
		const seen = vi.fn();
		Element.prototype.scrollIntoView = seen;
		await shown.rerender({ at: 86 });
		expect(seen.mock.contexts).toEqual([screen.getByText('Rib 87')]);
		came.mockRestore();
		side.remove();
	});
});
