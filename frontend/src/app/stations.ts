/** The six stations, in the order of the work. */
import type { Component } from 'svelte';
import { word } from '../words/words';

export interface Place {
	key: string;
	name: string;
	load: () => Promise<{ default: Component }>;
}
export const STATIONS: Place[] = [
	{
		key: 'sheets',
		name: word('shell.sheets'),
		load: () => import('../screens/sheets/Sheets.svelte')
	},
	{
		key: 'build',
		name: word('shell.build'),
		load: () => import('../screens/build/Build.svelte')
	},
	{
		key: 'dry-fit',
		name: word('shell.dry-fit'),
		load: () => import('../screens/dry-fit/DryFit.svelte')
	},
	{
		key: 'lay-out',
		name: word('shell.lay-out'),
		load: () => import('../screens/lay-out/LayOut.svelte')
	},
	{
		key: 'cut-plan',
		name: word('shell.cut-plan'),
		load: () => import('../screens/cut-plan/CutPlan.svelte')
	},
	{ key: 'run', name: word('shell.run'), load: () => import('../screens/run/Run.svelte') }
];
