/** One open project: its head revision, the strip, and saving on top of what everybody else saves. */
import { repeated } from '../lib/ui/again';
import { typedBefore } from '../lib/ui/pending.svelte';
import { getContext, setContext } from 'svelte';
import { Asked } from '../api/asked';
import { api, need, Problem } from '../api/client';
import type { BuildOut, Design, Finding, MeetingChoice, PanelEdit, Pin, ProjectOut, Repair, Station, Values } from '../api/types';
import { word } from '../words/words';
import { bodyOf, withBody } from './items';

const WATCH_MS = 4000;
const AFTER_THE_STATION_MS = 150;

/** A change of a design, to be made on whatever it has become meanwhile. */
export type Change = (design: Design) => Design;

export const NOTHING_CHOSEN: MeetingChoice = {
	feel: null,
	clearance: null,
	count: null,
	style: null,
	width: null,
	proud: null,
	share: null,
	flip: false
};
const AS_ARRANGED: PanelEdit = {
	stock: null,
	label: null,
	gone: false,
	move: [0, 0, 0],
	tilt: { tip: 0, swing: 0, spin: 0 },
	turned: false,
	across: false,
	copies: 1,
	spares: 0,
	helper: false,
	bridges: 0,
	reverse: false,
	outline: null
};
const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/** A design with changes to some panels; an edit that changes nothing is dropped. */
export function withEdits(design: Design, panels: string[], change: (before: PanelEdit, panel: string) => Partial<PanelEdit>): Design {
	const edits = { ...design.edits };
	for (const id of panels) {
		const before = { ...AS_ARRANGED, ...edits[id] };
		const after = { ...before, ...change(before, id) };
		if (same(after, AS_ARRANGED)) delete edits[id];
		else edits[id] = after;
	}
	return { ...design, edits };
}

/** The choices of a design with changes to some meetings; a choice that says nothing is dropped. */
function chosen(design: Design, meetings: string[], changes: Partial<MeetingChoice>) {
	const choices = { ...design.choices };
	for (const id of meetings) {
		const choice = { ...NOTHING_CHOSEN, ...choices[id], ...changes };
		if (same(choice, NOTHING_CHOSEN)) delete choices[id];
		else choices[id] = choice;
	}
	return choices;
}

export class ProjectState {
	project = $state.raw<ProjectOut | null>(null);
	strip = $state.raw<Station[]>([]);
	saving = $state(false);
	notice = $state('');
	/** Set when somebody else saved first: their project and what we wanted. */
	conflict = $state.raw<{
		theirs: ProjectOut;
		message: string;
		wanted: Change | null;
		label: string;
	} | null>(null);
	/** Counts up whenever something that stations show may have changed. */
	version = $state(0);

	/** The item that is open by itself: what is changed, is changed of it; '' while all of the project is shown. */
	item = $state('');
	/** What is open: the design of an item, or the project's. */
	get design(): Design {
		return bodyOf(this.project!.design, this.item);
	}

	constructor(readonly id: number) {}

	async load() {
		this.project = await need(api.GET('/api/projects/{project_id}', { params: { path: { project_id: this.id } } }));
		await this.refreshStrip();
	}

	private strips = new Asked();
	async refreshStrip() {
		const question = need(api.GET('/api/projects/{project_id}/strip', { params: { path: { project_id: this.id } } }));
		this.strip = (await this.strips.newest(question)) ?? this.strip;
	}

	/** Say that evidence, layout, plan or runs changed. The strip keeps its last word while the line is lost. */
	async touched() {
		this.version += 1;
		await this.refreshStrip().catch(() => {});
	}

	/** Ask for the strip a moment later: what the person changed is to be seen first, and the server does one thing after the other. */
	private stripSoon() {
		clearTimeout(this.later);
		this.later = window.setTimeout(() => this.refreshStrip().catch(() => {}), AFTER_THE_STATION_MS);
	}
	private later = 0;

	private queue: Promise<unknown> = Promise.resolve();

	/** One change after the other, typed ones too: each starts from what the one before it left. */
	private inTurn(work: () => Promise<void>): Promise<void> {
		const typed = typedBefore();
		return typed ? typed.then(() => this.next(work)) : this.next(work);
	}
	private next(work: () => Promise<void>): Promise<void> {
		const turn = this.queue.then(work);
		this.queue = turn.catch(() => {});
		return turn;
	}

	/** What a saved design comes to, when it came along with the answer; for whoever shows it, once. */
	private built: BuildOut | null = null;
	/** A station is open that shows what a design comes to. */
	showsBuild = false;
	takeBuilt(): BuildOut | null {
		const built = this.built;
		this.built = null;
		return built;
	}

	private async take(asked: Promise<ProjectOut & { build?: BuildOut | null }>, wanted: Change | null, label: string) {
		this.saving = true;
		try {
			const { build = null, ...project } = await asked;
			[this.project, this.built] = [project, build];
			this.version += 1;
			this.stripSoon();
		} catch (problem) {
			if (problem instanceof Problem && problem.status === 409) {
				const answer = problem.facts.answer as { theirs: ProjectOut };
				this.conflict = { theirs: answer.theirs, message: problem.message, wanted, label };
			} else throw problem;
		} finally {
			this.saving = false;
		}
	}

	/** Save a change of what is open as a new revision. */
	save(change: Change, label: string): Promise<void> {
		const item = this.item;
		return this.saveWhole((d) => withBody(d, item, change), item ? `${this.nameOf(item)}: ${label}` : label);
	}

	private nameOf = (item: string) => this.project!.design.items?.find((i) => i.id === item)?.label ?? this.project!.design.name;

	/** Save a change of the whole project as a new revision. */
	saveWhole(change: Change, label: string): Promise<void> {
		return this.inTurn(() => {
			const { revision, design } = this.project!;
			const params = { path: { project_id: this.id }, query: { built: this.showsBuild, item: this.item } };
			const body = { base: revision, design: change(design), label };
			return this.take(need(api.PUT('/api/projects/{project_id}/design', { params, body })), change, label);
		});
	}

	setNumbers(changes: Values, label: string) {
		return this.save((d) => ({ ...d, numbers: { ...d.numbers, ...changes } as Design['numbers'] }), label);
	}

	/** Change some panels in one step. */
	editPanels(panels: string[], change: (before: PanelEdit, panel: string) => Partial<PanelEdit>, label: string) {
		return this.save((d) => withEdits(d, panels, change), label);
	}

	/** Carry out a repair that a finding offers; the server tries it first, and says so when it does not help. */
	repair(finding: Finding, repair: Repair) {
		return this.inTurn(() => {
			const params = { path: { project_id: this.id } };
			const body = { base: this.project!.revision, finding, repair };
			return this.take(need(api.POST('/api/projects/{project_id}/repair', { params, body: body as never })), null, '');
		});
	}

	/** Keep a size in view, or no longer. */
	togglePin(pin: Pin, label: string) {
		const is = (p: Pin) => p.part === pin.part && p.what === pin.what;
		const there = this.design.pins?.some(is);
		return this.save(
			(d) => ({ ...d, pins: there ? (d.pins ?? []).filter((p) => !is(p)) : [...(d.pins ?? []), pin] }),
			`${label} ${there ? word('shell.no-longer-in-view') : word('shell.kept-in-view')}`
		);
	}

	/** Forget the choices of meetings that are no more. */
	forgetChoices(meetings: string[], label: string) {
		const gone = new Set(meetings);
		return this.save((d) => ({ ...d, choices: Object.fromEntries(Object.entries(d.choices ?? {}).filter(([k]) => !gone.has(k))) }), label);
	}

	/** Make the whole design larger or smaller; joints stay. */
	scale(factor: number) {
		return this.inTurn(() => {
			const params = { path: { project_id: this.id } };
			const body = { base: this.project!.revision, factor, item: this.item };
			return this.take(need(api.POST('/api/projects/{project_id}/scale', { params, body })), null, '');
		});
	}

	/** Choose alternatives of what varies; those that are chosen now are kept as they are. */
	chooseVariant(choice: Record<string, string>) {
		return this.inTurn(() => {
			const params = { path: { project_id: this.id } };
			const body = { base: this.project!.revision, choice, item: this.item };
			return this.take(need(api.POST('/api/projects/{project_id}/variant', { params, body })), null, '');
		});
	}

	/** Put a box into each empty room of an item. */
	fillRooms(host: string, rooms: string[] = []) {
		return this.inTurn(() => {
			const params = { path: { project_id: this.id } };
			const body = { base: this.project!.revision, host, play: 0.5, rooms };
			return this.take(need(api.POST('/api/projects/{project_id}/items/fill', { params, body })), null, '');
		});
	}

	/** Take in another project of the shop as it stands now. */
	bringProject(project: number) {
		return this.inTurn(() => {
			const params = { path: { project_id: this.id } };
			const body = { base: this.project!.revision, project };
			return this.take(need(api.POST('/api/projects/{project_id}/items/bring', { params, body })), null, '');
		});
	}

	/** Bring an item up to what the project that it came from is now. */
	followProject(item: string) {
		return this.inTurn(() => {
			const params = { path: { project_id: this.id, item } };
			const body = { base: this.project!.revision };
			return this.take(need(api.POST('/api/projects/{project_id}/items/{item}/follow', { params, body })), null, '');
		});
	}

	/** Lay an item with the outer face of its part on that of another item's. */
	layOn(part: string, onto: string) {
		return this.inTurn(() => {
			const params = { path: { project_id: this.id } };
			const body = { base: this.project!.revision, part, onto };
			return this.take(need(api.POST('/api/projects/{project_id}/lay-on', { params, body })), null, '');
		});
	}

	setChoice(meeting: string, changes: Partial<MeetingChoice>, label: string, others: string[] = []) {
		return this.save((d) => ({ ...d, choices: chosen(d, [meeting, ...others], changes) }), label);
	}

	private stepping(path: '/api/projects/{project_id}/undo' | '/api/projects/{project_id}/redo') {
		return this.inTurn(() => {
			const params = { path: { project_id: this.id } };
			return this.take(need(api.POST(path, { params, body: { base: this.project!.revision } })), null, '');
		});
	}
	async undo() {
		if (this.project?.can_undo) await this.stepping('/api/projects/{project_id}/undo');
	}
	async redo() {
		if (this.project?.can_redo) await this.stepping('/api/projects/{project_id}/redo');
	}

	async rename(name: string) {
		this.project = await need(
			api.PUT('/api/projects/{project_id}/name', {
				params: { path: { project_id: this.id } },
				body: { name }
			})
		);
	}

	async takeTheirs() {
		this.project = this.conflict!.theirs;
		this.conflict = null;
		await this.touched();
	}
	/** Make my change again, on top of theirs: both stand. */
	async saveMine() {
		const { theirs, wanted, label } = this.conflict!;
		this.conflict = null;
		this.project = theirs;
		if (wanted) await this.saveWhole(wanted, label); // it was made of the whole already
	}

	/** Look now and then if somebody else saved; show theirs unless we are in the middle of saving. */
	watch(): () => void {
		return repeated(WATCH_MS, async () => {
			if (this.saving || this.conflict || document.hidden) return;
			const before = this.project;
			try {
				const now = await need(api.GET('/api/projects/{project_id}', { params: { path: { project_id: this.id } } }));
				if (this.project !== before) return; // we saved meanwhile: this answer may not know of it
				if (!this.saving && this.project && now.revision !== this.project.revision) {
					this.notice = word('shell.saved-revision', { author: now.author, revision: now.revision, label: now.revision_label });
					this.project = now;
					await this.touched();
				}
			} catch {
				/* the line is lost for a moment: the next look tells */
			}
		});
	}
}

const KEY = Symbol('project');
export const provideProject = (state: ProjectState) => setContext(KEY, state);
export const useProject = () => getContext<ProjectState>(KEY);
