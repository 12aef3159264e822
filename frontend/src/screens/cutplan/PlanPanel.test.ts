/** Files go out only when the plan is fresh, nothing stops them, and warnings are read. */
import { render, screen, within } from '@testing-library/svelte';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { PlanOut } from '../../api/types';
import PlanPanel from './PlanPanel.svelte';

const sent: { url: string; body: unknown }[] = [];
beforeEach(() => {
	sent.length = 0;
	vi.stubGlobal('fetch', async (request: Request) => {
		sent.push({ url: new URL(request.url).pathname, body: await request.json() });
		return new Response('{}', { status: 200, headers: { 'Content-Type': 'application/json' } });
	});
});

const stroke = (operation: string) => ({ path: { operation } });
const sheet = {
	sheet: '1',
	copy: 0,
	stock: '1',
	name: 'Birch ply 3',
	kerf: 0.158,
	travel: 1700,
	by_operation: { score: 6, inner: 70, outer: 335, travel: 9 },
	strokes: [stroke('score'), stroke('inner'), stroke('inner'), stroke('outer')]
};
const warning = { code: 'kerf_guess', severity: 'look', message: 'The kerf is a default. Cut a test first.' };
const stop = { code: 'cut_twice', severity: 'must', message: 'The same line would be cut twice.' };
const fine = { code: 'outside_bed', severity: 'fine', message: 'Everything lies inside the bed' };

function panel(findings: object[], more: object = {}) {
	const plan = { sheets: [sheet], findings, seconds: 817, band: 87, factor: 1.04, handling: 120, kerf_place: 'paths' };
	const out = {
		laid_out: true,
		layout_fresh: true,
		fresh: true,
		revision: 6,
		plan_print: 'x',
		plan,
		machine: { id: '3', kerf_place: 'paths' },
		settings: {
			'1': {
				cut: { power: 62, speed: 14, passes: 1 },
				score: { power: 12, speed: 120 },
				engrave: { power: 20, speed: 250 },
				source: 'power card'
			}
		},
		stocks: {},
		labels: {},
		factor: 1.04,
		factor_runs: 1,
		job: null,
		...more
	} as unknown as PlanOut;
	const onplan = vi.fn(async () => {});
	render(PlanPanel, { out, sheet: sheet as never, problem: '', busy: false, projectId: 9, onplan, onmachine: vi.fn(async () => {}) });
	return { onplan };
}
const files = () => screen.queryByRole('link', { name: 'Make the files' });

describe('the plan panel', () => {
	it('gives the files of a sound plan, sheet by sheet too', () => {
		panel([fine]);
		expect(files()).toHaveAttribute('href', '/api/projects/9/files/all.zip');
		expect(screen.getByRole('link', { name: 'SVG' })).toHaveAttribute('href', '/api/projects/9/files/sheet-1.svg');
		expect(screen.getByText('1 check passed')).toBeInTheDocument();
	});
	it('asks to read a warning first', async () => {
		panel([warning, fine]);
		expect(files()).toBeNull();
		await userEvent.click(screen.getByLabelText('I have read these and go on'));
		expect(files()).not.toBeNull();
	});
	it('holds the files back when something must be mended', () => {
		panel([stop, warning]);
		expect(files()).toBeNull();
		expect(screen.queryByLabelText('I have read these and go on')).toBeNull();
		expect(screen.getByRole('button', { name: 'Make the files' })).toBeDisabled();
	});
	it('holds the files of a stale plan back and plans again', async () => {
		const { onplan } = panel([fine], { fresh: false });
		expect(files()).toBeNull();
		await userEvent.click(screen.getByRole('button', { name: 'Plan again' }));
		expect(onplan).toHaveBeenCalled();
	});
	it('sends back to Lay out when the parts have changed', () => {
		panel([fine], { fresh: false, layout_fresh: false });
		expect(screen.getByText(/the parts must be packed again first/)).toBeInTheDocument();
		expect(screen.getByRole('button', { name: 'Plan again' })).toBeDisabled();
	});
	it('counts times and paths by operation', () => {
		panel([fine]);
		const row = (name: RegExp) => within(screen.getByText(name).closest('tr')!);
		expect(row(/^Inner cuts/).getByText('1:10')).toBeInTheDocument();
		expect(row(/^Inner cuts/).getByText(/2 paths · 62 %/)).toBeInTheDocument();
		expect(row(/^Score/).getByText(/1 path · 12 %/)).toBeInTheDocument();
		expect(screen.getByText(/the log says × 1.04 \(1 run\)/)).toBeInTheDocument();
	});
	it('leaves kerf to the machine in one place', async () => {
		panel([fine]);
		await userEvent.click(screen.getByLabelText(/by the machine’s own software/));
		expect(sent).toEqual([{ url: '/api/machines/3', body: { kerf_place: 'machine' } }]);
	});
});
