/** A long list keeps only what is near on the page. */
import { fireEvent, render, screen } from '@testing-library/svelte';
import { createRawSnippet, tick } from 'svelte';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import LongList from './LongList.svelte';

const [ROW, SEEN, NEAR] = [30, 300, 16];
const row = createRawSnippet<[string]>((item) => ({ render: () => `<button>${item()}</button>` }));
const list = (count: number, at = -1) => ({
	items: Array.from({ length: count }, (_, i) => `Rib ${i + 1}`),
	key: (s: string) => s,
	height: ROW,
	at,
	row
});
const rows = () => screen.queryAllByRole('button').map((b) => Number(b.textContent!.slice(4)));
const run = (from: number, to: number) => Array.from({ length: to - from + 1 }, (_, i) => from + i);
let side: HTMLElement;
async function scrolled(to: number) {
	side.scrollTop = to;
	await fireEvent.scroll(side);
	await tick();
}
const shown = (count: number, at = -1) => render(LongList<string>, { target: side, props: list(count, at) });

beforeEach(() => {
	side = document.body.appendChild(document.createElement('nav'));
	side.className = 'side';
	// a page of rows that are as high as they are said to be
	vi.spyOn(HTMLElement.prototype, 'offsetHeight', 'get').mockImplementation(function (this: HTMLElement) {
		return this === side ? SEEN : ROW;
	});
	vi.spyOn(HTMLElement.prototype, 'offsetWidth', 'get').mockReturnValue(200);
	vi.spyOn(HTMLElement.prototype, 'getBoundingClientRect').mockImplementation(function (this: HTMLElement) {
		return { top: this === side ? 0 : -side.scrollTop, height: this === side ? SEEN : ROW, width: 200 } as DOMRect;
	});
	Object.defineProperty(side, 'scrollHeight', { value: 90 * ROW });
	Object.defineProperty(side, 'clientHeight', { value: SEEN });
	side.scrollTo = ((to: ScrollToOptions) => void scrolled(to.top!)) as typeof side.scrollTo;
});
afterEach(() => {
	vi.restoreAllMocks();
	side.remove();
});

describe('a long list', () => {
	it('is whole when it is short', () => {
		shown(40);
		expect(rows()).toEqual(run(1, 40));
	});
	it('has the rows near what is seen, and room for the others', async () => {
		shown(90);
		await tick();
		expect(rows()).toEqual(run(1, SEEN / ROW + NEAR));
		expect((side.querySelector('.long') as HTMLElement).style.height).toBe(`${90 * ROW}px`);
		await scrolled(40 * ROW);
		expect(rows()).toEqual(run(41 - NEAR, 50 + NEAR));
		expect(screen.getByText('Rib 41').parentElement!.style.top).toBe(`${40 * ROW}px`);
	});
	it('keeps the row that has the focus', async () => {
		shown(90);
		await tick();
		screen.getByText('Rib 3').focus();
		await scrolled(60 * ROW);
		expect(rows()).toEqual([3, ...run(61 - NEAR, 70 + NEAR)]);
		expect(screen.getByText('Rib 3')).toHaveFocus();
	});
	it('comes to the row that is wanted', async () => {
		const here = shown(90);
		await tick();
		await here.rerender({ at: 60 });
		expect(side.scrollTop).toBe(61 * ROW - SEEN);
		await here.rerender({ at: 58 });
		expect(side.scrollTop).toBe(61 * ROW - SEEN); // in sight: nothing moves
	});
});
