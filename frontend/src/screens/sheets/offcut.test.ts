/** Offcuts typed and drawn: corners in the reader's unit, on the grid, around bad spots. */
import { fireEvent, render, screen } from '@testing-library/svelte';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { boxRing, readCorners, snapped, writeCorners } from './offcut';
import OffcutPad from './OffcutPad.svelte';

describe('corners', () => {
	it('are read and written in the unit of the reader', () => {
		expect(readCorners(' 0,0  2,0 2,1.5', 'in')).toEqual([
			[0, 0],
			[50.8, 0],
			[50.8, 38.099999999999994]
		]);
		expect(writeCorners(readCorners('0,0 310.5,0 12,180', 'mm'), 'mm')).toBe('0,0 310.5,0 12,180');
		for (const wrong of ['0;0', '1', '1,2,3', 'x,1', ',']) expect(() => readCorners(wrong, 'mm')).toThrow('is not a corner');
	});
	it('lie on the grid and inside what was measured, whose far side is a line too', () => {
		expect(snapped([12.4, -3], 5, 303, 200)).toEqual([10, 0]);
		expect(snapped([301.5, 250], 5, 303, 200)).toEqual([303, 200]);
		expect(boxRing([10, 10], [10, 30])).toBeNull();
		expect(boxRing([30, 40], [10, 10])).toEqual([
			[10, 10],
			[30, 10],
			[30, 40],
			[10, 40]
		]);
	});
});

describe('the pad', () => {
	it('adds corners by clicking, spots by dragging, and takes the last of them off', async () => {
		vi.stubGlobal(
			'DOMPoint',
			class {
				constructor(
					public x: number,
					public y: number
				) {}
				matrixTransform = () => ({ x: this.x, y: this.y });
			}
		);
		(SVGElement.prototype as unknown as { getScreenCTM: unknown }).getScreenCTM = () => ({ inverse: () => null });
		const [oncorners, onbad] = [vi.fn(), vi.fn()];
		const given = {
			width: 300,
			height: 200,
			corners: [[0, 0]] as [number, number][],
			bad: [[[0, 0]]] as [number, number][][],
			oncorners,
			onbad
		};
		render(OffcutPad, given);
		const pad = screen.getByRole('img', { name: /Offcut, 1 corner/ });
		await fireEvent.pointerDown(pad, { clientX: 152, clientY: 48, button: 0 });
		expect(oncorners).toHaveBeenLastCalledWith([
			[0, 0],
			[150, 150]
		]);
		await fireEvent.pointerUp(pad);
		await userEvent.click(screen.getByRole('button', { name: 'Last corner off' }));
		expect(oncorners).toHaveBeenLastCalledWith([]);
		await userEvent.click(screen.getByText('bad spots'));
		await fireEvent.pointerDown(pad, { clientX: 100, clientY: 100, button: 0 });
		await fireEvent.pointerMove(pad, { clientX: 121, clientY: 80 });
		await fireEvent.pointerUp(pad);
		expect(onbad.mock.calls.at(-1)![0][1]).toEqual([
			[100, 100],
			[120, 100],
			[120, 120],
			[100, 120]
		]);
		vi.unstubAllGlobals();
	});
});
