/** The assembly player and the fit strip. */
import { render, screen } from '@testing-library/svelte';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import type { Boundaries, CheckOut, Meeting, Step } from '../../api/types';
import FitStrip from './FitStrip.svelte';
import { Vector3 } from 'three';
import { tilted } from '../../lib/mat/pull';
import Player from './Player.svelte';
import { pullOf, wayIn } from './scope';

const step = (part: string, direction: number[]) => ({ parts: [part], direction }) as unknown as Step;
const steps = [step('base', [0, 0, -1]), step('left', [1, 0, 0]), step('front', [0, 1, 0]), step('lid', [0, 0, -1])];
const names = new Map([
	['base', 'Base'],
	['left', 'Left side'],
	['front', 'Front'],
	['lid', 'Lid']
]);
const told = () => screen.getByTestId('step').textContent;

describe('the way of a step', () => {
	const post = { ...step('post', [0, 0, -1]), last: [0, 1, 0], last_mm: 6 } as Step;
	const lid = { ...step('lid', [0, 0, -1]), tip: { point: [0, 0, 0], axis: [1, 0, 0], degrees: -10 } } as unknown as Step;
	it('is told with what is done at its end', () => {
		expect(wayIn(post, 'mm')).toBe('from above, then 6.0 mm to the back');
		expect(wayIn(lid, 'mm')).toBe('from above, tilted by 10°, then turned into place');
	});
	it('is gone the long way first, and ends in its place', () => {
		expect(pullOf(post, 0, 100).by.map((v) => v + 0)).toEqual([0, -6, 100]);
		expect(pullOf(post, 0.7, 100).by.map((v) => v + 0)).toEqual([0, -6, 0]);
		expect(pullOf(post, 1, 100).by.map((v) => v + 0)).toEqual([0, 0, 0]);
		expect(pullOf(lid, 0, 100).tip!.degrees).toBe(-10);
		expect(pullOf(lid, 1, 100).tip!.degrees).toBeCloseTo(0);
		expect(pullOf(step('left', [1, 0, 0]), 0.5, 100).by[0]).toBe(-50);
		const there = new Vector3(0, 10, 0).applyMatrix4(tilted(pullOf(lid, 0, 100)));
		expect([there.y, there.z].map((v) => +v.toFixed(3))).toEqual([9.848, -1.736]);
	});
});

describe('the player', () => {
	it('stands at the end, and steps back and on in plain words', async () => {
		render(Player, { steps, names, at: 4, move: 1 });
		expect(told()).toBe('all together');
		await userEvent.click(screen.getByLabelText('Step back'));
		expect(told()).toBe('Lid, from above');
		await userEvent.keyboard('{ArrowLeft}');
		expect(told()).toBe('Front, from the front');
		await userEvent.keyboard('{ArrowLeft}');
		expect(told()).toBe('Left side, from the left');
		await userEvent.keyboard('{ArrowLeft}{ArrowLeft}{ArrowLeft}');
		expect(told()).toBe('Base, lay down');
		await userEvent.keyboard('{ArrowRight}');
		expect(told()).toBe('Left side, from the left');
	});
	it('plays from the beginning and comes to the end', async () => {
		vi.useFakeTimers({ toFake: ['requestAnimationFrame', 'cancelAnimationFrame', 'performance'] });
		const user = userEvent.setup({ advanceTimers: (ms) => vi.advanceTimersByTime(ms) });
		render(Player, { steps, names, at: 4, move: 1 });
		await user.click(screen.getByRole('button', { name: 'Put together' }));
		expect(told()).toBe('Base, lay down');
		expect(screen.getByRole('button', { name: 'Hold' })).toBeInTheDocument();
		for (let i = 0; i < 500; i++) {
			vi.advanceTimersByTime(16);
			await Promise.resolve();
		}
		expect(told()).toBe('all together');
		vi.useRealTimers();
	});
	it('is not there without steps', () => {
		render(Player, { steps: [], names, at: 0, move: 1 });
		expect(screen.queryByRole('group')).toBeNull();
	});
});

describe('the fit strip', () => {
	const wood = { rattles: 0.25, slides: 0.08, snug: -0.05, mallet: -0.2 } as Boundaries;
	const meetings = ['a', 'b'].map((id) => ({ id, a: 'base', b: id === 'a' ? 'left' : 'front' })) as unknown as Meeting[];
	const chances = [
		{ meeting: 'a', chances: { clearance: 0.015, sd: 0.04 }, rework: 0.01 },
		{ meeting: 'b', chances: { clearance: 0.3, sd: 0.04 }, rework: 0.8 }
	] as unknown as NonNullable<CheckOut['result']>['chances'];

	it('has a dot for each joint, marks the risky ones, and picks with the keyboard', async () => {
		const onpick = vi.fn();
		render(FitStrip, { chances, boundaries: { a: wood, b: wood }, meetings, names, expected: 0.81, onpick });
		const dots = screen.getAllByRole('button').filter((b) => b.tagName === 'circle');
		expect(screen.getByRole('button', { name: /Base with Front 80 %/ })).toBeInTheDocument(); // the riskiest
		expect(dots.map((d) => d.getAttribute('aria-label'))).toEqual(['Base with Left side', 'Base with Front']);
		expect(dots[0]!.getAttribute('fill')).not.toBe(dots[1]!.getAttribute('fill'));
		expect(Number(dots[0]!.getAttribute('cx'))).toBeGreaterThan(Number(dots[1]!.getAttribute('cx'))); // tighter lies further right
		expect(screen.getByText('2 joints with a fit · about 0.8 to rework')).toBeInTheDocument();
		dots[1]!.focus();
		await userEvent.keyboard('{Enter}');
		expect(onpick).toHaveBeenLastCalledWith(meetings[1]);
	});
	it('shows many joints at one place as a heap with their number, and none is lost', async () => {
		const onpick = vi.fn();
		const many = Array.from({ length: 40 }, (_, i) => ({ id: `m${i}`, a: 'base', b: 'left' })) as unknown as Meeting[];
		const alike = many.map((m, i) => ({ meeting: m.id, chances: { clearance: 0.015, sd: 0.04 }, rework: i === 7 ? 0.4 : 0.001 }));
		render(FitStrip, {
			chances: [...chances, ...alike] as typeof chances,
			boundaries: Object.fromEntries([...meetings, ...many].map((m) => [m.id, wood])),
			meetings: [...meetings, ...many],
			names,
			expected: 1.2,
			onpick
		});
		const shown = screen.getAllByRole('button').map((b) => b.getAttribute('aria-label') ?? '');
		expect(shown.filter((s) => s === '41 joints')).toHaveLength(1);
		expect(shown.filter((s) => s === 'Base with Front')).toHaveLength(1);
		await userEvent.click(screen.getByRole('button', { name: '41 joints' }));
		expect(onpick).toHaveBeenLastCalledWith(many[7]); // the riskiest of them
	});
});
