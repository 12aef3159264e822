/** What of a batch is still to be cut, and packing just that. */
import { api, need } from '../api/client';
import type { RecutOut } from '../api/types';
import type { ProjectState } from './project.svelte';
import { navigate } from './router';

/** How many of each part are still missing, by part. */
export const missingOf = (recut: RecutOut | null): Record<string, number> =>
	Object.fromEntries((recut?.rows ?? []).filter((r) => r.good < r.wanted).map((r) => [r.part, r.wanted - r.good]));

/** Packs only these, as was asked for the last time in everything else, and goes to Lay out. */
export async function packOnly(work: ProjectState, only: Record<string, number>): Promise<void> {
	const params = { path: { project_id: work.id } };
	const { request } = await need(api.GET('/api/projects/{project_id}/lay-out', { params }));
	await need(api.POST('/api/projects/{project_id}/lay-out/pack', { params, body: { ...request, only } }));
	await work.touched();
	await navigate('/projects/:id/:station', { params: { id: String(work.id), station: 'lay-out' } });
}
