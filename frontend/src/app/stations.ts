/** The six stations, in the order of the work. */
import type { Component } from 'svelte';
import { word } from '../words/words';

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
		name: word('shell.sheets'),
		load: () => import('../screens/sheets/Sheets.svelte')
	},
	{
		key: 'build',
		path: 'build',
		name: word('shell.build'),
		load: () => import('../screens/build/Build.svelte')
	},
	{
		key: 'dryfit',
		path: 'dry-fit',
		name: word('shell.dry-fit'),
		load: () => import('../screens/dryfit/DryFit.svelte')
	},
	{
		key: 'layout',
		path: 'lay-out',
		name: word('shell.lay-out'),
		load: () => import('../screens/layout/LayOut.svelte')
	},
	{
		key: 'plan',
		path: 'cut-plan',
		name: word('shell.cut-plan'),
		load: () => import('../screens/cutplan/CutPlan.svelte')
	},
	{ key: 'run', path: 'run', name: word('shell.run'), load: () => import('../screens/run/Run.svelte') }
];
