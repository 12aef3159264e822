/** Files to the server, as forms. */
import { api, need } from './client';
import type { DrawingOut, Point, ProjectOut } from './types';

const asForm = { bodySerializer: (body: unknown) => body as FormData };
function form(file: File, more: Record<string, string | number | boolean> = {}) {
	const data = new FormData();
	data.set('file', file);
	for (const [k, v] of Object.entries(more)) data.set(k, String(v));
	return data as never;
}

export function sendDrawing(project: number, file: File, how: Record<string, number | boolean> = {}): Promise<DrawingOut> {
	const params = { path: { project_id: project } };
	return need(api.POST('/api/projects/{project_id}/drawings', { params, body: form(file, how), ...asForm }));
}

export function sendHeights(project: number, file: File, darkIsHigh: boolean) {
	const params = { path: { project_id: project } };
	return need(api.POST('/api/projects/{project_id}/heights', { params, body: form(file, { dark_is_high: darkIsHigh }), ...asForm }));
}

/** Make a project from one that was taken out, here or in another shop. */
export function bringIn(file: File): Promise<ProjectOut> {
	return need(api.POST('/api/bundles', { body: form(file), ...asForm }));
}

/** The outline of an offcut on a photo from above [mm]; nothing is kept. */
export async function traceSheet(file: File, width: number, light: boolean): Promise<Point[]> {
	return (await need(api.POST('/api/sheet-outline', { body: form(file, { width_mm: width, light }), ...asForm }))) as Point[];
}

/** Where the dots that a part's mark burns are to be had; `state` changes with the parts, so that no old picture is shown. */
export function pictureAddress(project: number, part: string, mark: number, state: string): string {
	return `/api/projects/${project}/parts/${encodeURIComponent(part)}/pictures/${mark}.png?of=${state}`;
}

export function sendTrialNote(project: number, note: { about: string; feel: string; text: string }, photo: File | null) {
	const data = new FormData();
	for (const [k, v] of Object.entries(note)) data.set(k, v);
	if (photo) data.set('photo', photo);
	return need(api.POST('/api/projects/{project_id}/trial', { params: { path: { project_id: project } }, body: data as never, ...asForm }));
}
