/** The small parts that every screen is made of. */
import { render, screen, within } from '@testing-library/svelte';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import type { Boundaries, Quantity } from '../../api/types';
import { written } from '../../../tests/written';
import Choice from './Choice.svelte';
import Dot from './Dot.svelte';
import FitBand from './FitBand.svelte';
import Ledger from './Ledger.svelte';
import SheetTabs from './SheetTabs.svelte';

const term = (kind: string, label: string, value: number, more = {}) => ({
	kind,
	label: written(label),
	value,
	sd: 0,
	source: null,
	on: null,
	trust: 'measured',
	...more
});
const drawn = {
	value: 2.977,
	sd: 0.02,
	terms: [
		term('measured', 'Column divider 1, measured', 3.12, { sd: 0.02, source: written('3 readings'), on: '2026-05-12' }),
		term('fit', 'Clearance, snug', 0.015, { source: written('default for wood'), trust: 'default' }),
		term('kerf', 'Kerf', -0.158, { source: written('3 tests') })
	]
} as unknown as Quantity;

describe('the ledger', () => {
	const line = (name: string) => within(screen.getByText(name).closest('tr')!);

	it('adds up before the eye: terms, finished width, kerf, drawn', () => {
		render(Ledger, { drawn, unit: 'mm' });
		expect(line('Column divider 1, measured').getByText('3.120')).toBeInTheDocument();
		expect(line('Finished width').getByText('3.135')).toBeInTheDocument();
		expect(line('Kerf').getByText('−0.158')).toBeInTheDocument();
		expect(line('Drawn in the file').getByText('2.977')).toBeInTheDocument();
	});
	it('says where each term is from and which is a guess', () => {
		render(Ledger, { drawn, unit: 'mm' });
		expect(screen.getByText('3 readings · 12 May · ±0.020')).toBeInTheDocument();
		expect(line('Clearance, snug').getByText('guess')).toBeInTheDocument();
		expect(line('Kerf').queryByText('guess')).toBeNull();
	});
	it('speaks inches where the person does', () => {
		render(Ledger, { drawn, unit: 'in' });
		expect(line('Drawn in the file').getByText('0.1172')).toBeInTheDocument();
	});
});

describe('a choice', () => {
	const options = [
		{ value: 'slides', name: 'slides' },
		{ value: 'snug', name: 'snug' },
		{ value: 'mallet', name: 'mallet' }
	];
	it('marks what holds and tells what is chosen, with mouse and keyboard', async () => {
		const onchoose = vi.fn();
		render(Choice, { label: 'Feel', options, value: 'snug', onchoose });
		expect(screen.getByRole('radio', { name: 'snug' })).toBeChecked();
		await userEvent.click(screen.getByText('slides'));
		expect(onchoose).toHaveBeenLastCalledWith('slides');
		screen.getByRole('radio', { name: 'snug' }).focus();
		await userEvent.keyboard('{ArrowRight}');
		expect(onchoose).toHaveBeenCalledTimes(2);
	});
});

describe('a dot', () => {
	it('has a shape and a name for each colour, for those who do not see it', () => {
		const shapes = (['grey', 'green', 'amber', 'red'] as const).map((dot) => {
			const { container, unmount } = render(Dot, { dot });
			const svg = container.querySelector('svg')!;
			const found = [svg.innerHTML.replace(/fill="[^"]*"|stroke="[^"]*"/g, ''), svg.getAttribute('aria-label')];
			unmount();
			return found.join('|');
		});
		expect(new Set(shapes).size).toBe(4);
	});
});

describe('the fit band', () => {
	const wood = { rattles: 0.25, slides: 0.08, snug: -0.05, mallet: -0.2 } as Boundaries;
	const marker = (clearance: number) => {
		const { container, unmount } = render(FitBand, { boundaries: wood, clearance, sd: 0.04, height: 8 });
		const html = container.innerHTML;
		unmount();
		return html;
	};
	it('moves its mark with the clearance', () => {
		expect(marker(0.2)).not.toBe(marker(0.0));
	});
});

describe('the tabs of sheets', () => {
	it('stand side by side while they are few, and tick what is cut', async () => {
		const onchoose = vi.fn();
		render(SheetTabs, {
			names: ['Sheet 1', 'Sheet 2, back', 'Sheet 2, front'],
			chosen: 1,
			done: new Set([0, 1]),
			spoiled: new Set([1]),
			onchoose
		});
		expect(screen.getAllByRole('tab').map((t) => t.textContent)).toEqual(['Sheet 1 ✓ cut', 'Sheet 2, back ✗ spoiled', 'Sheet 2, front']);
		await userEvent.click(screen.getByText('Sheet 2, front'));
		expect(onchoose).toHaveBeenCalledWith(2);
	});
	it('become a list with a way back and on when they are many', async () => {
		const onchoose = vi.fn();
		render(SheetTabs, { names: Array.from({ length: 23 }, (_, i) => `Sheet ${i + 1}`), chosen: 0, onchoose });
		expect(screen.queryAllByRole('tab')).toHaveLength(0);
		expect(screen.getByLabelText('Sheet before')).toBeDisabled();
		await userEvent.click(screen.getByLabelText('Sheet after'));
		expect(onchoose).toHaveBeenLastCalledWith(1);
		await userEvent.selectOptions(screen.getByLabelText('Sheet'), '22');
		expect(onchoose).toHaveBeenLastCalledWith(22);
	});
	it('hold still while a run is on', () => {
		render(SheetTabs, { names: ['Sheet 1', 'Sheet 2'], chosen: 0, disabled: true, onchoose: vi.fn() });
		for (const tab of screen.getAllByRole('tab')) expect(tab).toBeDisabled();
	});
});
