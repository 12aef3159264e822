/** Painting the squares of an inlaid board: by dragging, by keys, and what nobody painted. */
import { fireEvent, render, screen } from '@testing-library/svelte';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { asPainted, painting, stepped } from './painted';
import PaintedSquares from './PaintedSquares.svelte';

const kept = vi.hoisted(() => vi.fn());
vi.mock('../../app/project.svelte', () => ({
	useProject: () => ({ design: { stocks: { squares_1: '4', squares_2: '5' } }, setNumbers: kept })
}));

describe('a painted board', () => {
	it('is chequered where nobody painted, and changes one square at a time', () => {
		const board = asPainted([[3], []], 2, 3);
		expect(board).toEqual([[3, 1, 0], [1, 0, 1]]); // prettier-ignore
		expect(painting(board, 1, 1, 2)).toEqual([[3, 1, 0], [1, 2, 1]]); // prettier-ignore
		expect(painting(board, 0, 0, 3)).toBe(board);
		expect(painting(board, 2, 0, 3)).toBe(board);
	});
	it.each([
		['ArrowUp', [1, 0]],
		['ArrowDown', [0, 0]],
		['ArrowRight', [0, 1]],
		['ArrowLeft', [0, 0]],
		['x', null]
	])('is walked with %s, and not left', (key, to) => {
		expect(stepped([0, 0], key, 2, 2)).toEqual(to);
		expect(stepped([1, 1], 'ArrowUp', 2, 2)).toEqual([1, 1]);
	});
	it('is painted by keys, and by dragging in one step', async () => {
		const { container } = render(PaintedSquares, { values: { rows: 2, columns: 2, painted: [] }, colours: { '4': '#eee', '5': '#853' } });
		const squares = [...container.querySelectorAll('rect')];
		expect(squares.map((s) => s.getAttribute('fill'))).toEqual(['#eee', '#853', '#853', '#eee']);
		screen.getByRole('application').focus();
		await userEvent.keyboard('{ArrowRight}2{ArrowUp}3'); // the first is of kind 2 already
		expect(kept.mock.calls.map(([n]) => n.painted)).toEqual([[[0, 1], [1, 2]]]); // prettier-ignore
		kept.mockClear();
		const over = vi.fn(() => squares[0]!);
		document.elementFromPoint = over as never;
		Element.prototype.setPointerCapture = () => {};
		await userEvent.click(screen.getByText('4'));
		const svg = screen.getByRole('application');
		await fireEvent.pointerDown(svg, { pointerId: 1 });
		over.mockReturnValue(squares[1]!);
		await fireEvent.pointerMove(svg, { buttons: 1 });
		expect(kept).not.toHaveBeenCalled();
		await fireEvent.pointerUp(svg);
		expect(kept.mock.calls.map(([n]) => n.painted)).toEqual([[[3, 3], [1, 0]]]); // prettier-ignore
	});
});
