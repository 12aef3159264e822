/** The six stations, in the order of the work. */
import type { Component } from 'svelte';

export interface Place {
	key: string;
	path: string;
	name: string;
	load: () => Promise<{ default: Component }>;
}
export const STATIONS: Place[] = [
	{
		key: 'sheets',
		path: 'sheets',
		name: 'Sheets',
		load: () => import('../screens/sheets/Sheets.svelte')
	},
	{
		key: 'build',
		path: 'build',
		name: 'Build',
		load: () => import('../screens/build/Build.svelte')
	},
	{
		key: 'dryfit',
		path: 'dry-fit',
		name: 'Dry fit',
		load: () => import('../screens/dryfit/DryFit.svelte')
	},
	{
		key: 'layout',
		path: 'lay-out',
		name: 'Lay out',
		load: () => import('../screens/layout/LayOut.svelte')
	},
	{
		key: 'plan',
		path: 'cut-plan',
		name: 'Cut plan',
		load: () => import('../screens/cutplan/CutPlan.svelte')
	},
	{ key: 'run', path: 'run', name: 'Run', load: () => import('../screens/run/Run.svelte') }
];
