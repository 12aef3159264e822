/** What Build shows: the assembly of the head revision, and what is picked in it. */
import { api, need } from '../../api/client';
import { Asked } from '../../api/asked';
import { pictureAddress } from '../../api/files';
import { inWhole } from '../../app/items';
import type { BuildOut, FeatureOut, MeetingOut, Pin, Point, Quantity } from '../../api/types';
import { word } from '../../words/words';

function inside(p: Point, corners: readonly (readonly number[])[], reach: number): boolean {
	const xs = corners.map((c) => c[0]!);
	const ys = corners.map((c) => c[1]!);
	return (
		p[0] > Math.min(...xs) - reach && p[0] < Math.max(...xs) + reach && p[1] > Math.min(...ys) - reach && p[1] < Math.max(...ys) + reach
	);
}

export class BuildState {
	out = $state.raw<BuildOut | null>(null);
	panel = $state('');
	/** further panels picked beside the first */
	more = $state.raw<string[]>([]);
	meeting = $state('');
	feature = $state('');
	detail = $state.raw<MeetingOut | null>(null);
	/** the ledger of a picked size: of an opening that belongs to no meeting, or of the panel itself */
	why = $state.raw<{ title: string; drawn: Quantity; pin: Pin } | null>(null);
	problem = $state('');
	/** an item is being added */
	adding = $state(false);
	/** what is picked once an item is open */
	private then = { panel: '', meeting: '' };

	part = $derived(this.out?.parts.find((p) => p.id === this.panel) ?? null);
	/** all picked panels, the first one first */
	picked = $derived(this.panel && !this.meeting ? [this.panel, ...this.more] : []);
	names = $derived(new Map(this.out?.parts.map((p) => [p.id, p.label]) ?? []));
	colours = $derived(Object.fromEntries(Object.entries(this.out?.stocks ?? {}).map(([k, s]) => [k, s.colour])));
	lit = $derived(new Set(this.meeting ? [this.detail?.meeting.a ?? '', this.detail?.meeting.b ?? ''] : this.picked));
	/** Outlines of the picked joint's features, by part. */
	outlines = $derived.by(() => {
		const by = new Map<string, readonly (readonly number[])[][]>();
		for (const p of this.out?.parts ?? []) {
			const some = p.features.filter((f) => f.meeting === this.meeting && this.meeting);
			if (some.length)
				by.set(
					p.id,
					some.map((f) => f.corners as unknown as number[][])
				);
		}
		return by;
	});

	/** The item that is shown alone; '' for all of the project. */
	item = '';

	constructor(readonly id: number) {}

	#asked = new Asked();
	#picked = new Asked();

	/** What asks for parts of what is shown. */
	private get shown() {
		return { item: this.item };
	}

	/** Show what the design comes to: as it came along with what was saved, or asked for. */
	async load(came: BuildOut | null = null) {
		try {
			const asked = this.item;
			const params = { path: { project_id: this.id }, query: this.shown };
			const question = came?.item === asked ? Promise.resolve(came) : need(api.GET('/api/projects/{project_id}/build', { params }));
			const out = await this.#asked.newest(question);
			if (!out || this.item !== asked) return; // a later change, or another item: its own answer is here or on its way
			this.out = out;
			this.problem = '';
			if (this.then.panel) this.panel = this.then.panel;
			if (this.then.meeting) this.meeting = this.then.meeting;
			this.then = { panel: '', meeting: '' };
			const there = new Set(this.out.parts.map((p) => p.id));
			if (!there.has(this.panel)) this.panel = '';
			this.more = this.more.filter((p) => there.has(p));
			const pin = this.why?.pin;
			this.why = null;
			if (this.meeting && !this.out.meetings.some((m) => m.id === this.meeting)) this.clear();
			if (this.meeting) await this.pickMeeting(this.meeting, this.feature);
			else if (pin && pin.part === this.panel) await this.pickPin(pin);
		} catch (e) {
			this.problem = (e as Error).message;
		}
	}

	/** Pick a panel or a meeting: now, or once the item is there that they belong to. */
	open(isThere: boolean, panel: string, meeting = '') {
		this.clear();
		if (!isThere) this.then = { panel, meeting };
		else if (meeting) void this.pickMeeting(meeting);
		else if (panel) this.pickPanel(panel);
	}

	/** The rooms of an item that nothing stands in. */
	freeRooms(item: string) {
		return this.out?.rooms.filter((r) => r.host === item && !r.taken_by) ?? [];
	}

	clear() {
		this.#picked.forget();
		[this.panel, this.meeting, this.feature, this.detail, this.why] = ['', '', '', null, null];
		this.more = [];
		this.adding = false;
	}
	pickPanel(id: string) {
		this.clear();
		this.panel = id;
	}
	/** Pick one more panel, or let go of one. */
	togglePanel(id: string) {
		const all = this.picked.includes(id) ? this.picked.filter((p) => p !== id) : [...this.picked, id];
		this.clear();
		this.panel = all[0] ?? '';
		this.more = all.slice(1);
	}
	async pickMeeting(id: string, feature = '') {
		const params = { path: { project_id: this.id, meeting_id: id }, query: this.shown };
		const detail = await this.#picked.only(need(api.GET('/api/projects/{project_id}/meetings/{meeting_id}', { params })));
		if (!detail) return; // something else was picked meanwhile
		this.detail = detail;
		this.meeting = id;
		const all = detail.features;
		const wanted =
			all.find((f) => f.feature.id === feature) ?? all.find((f) => ['slot', 'notch', 'lap'].includes(f.feature.kind)) ?? all[0];
		this.feature = wanted?.feature.id ?? '';
		if (wanted) this.panel = wanted.feature.part;
		else this.panel = this.detail.meeting.a;
	}
	/** Pick an opening or a tongue; `part` says whose, for one that belongs to no meeting. */
	async pickFeature(f: FeatureOut, part = '') {
		if (f.meeting) return this.pickMeeting(f.meeting, f.id);
		this.pickPanel(part);
		this.feature = f.id;
		const params = { path: { project_id: this.id, part_id: part }, query: { feature: f.id, ...this.shown } };
		const found = await this.#picked.only(need(api.GET('/api/projects/{project_id}/parts/{part_id}/why', { params })));
		if (found) this.why = { title: f.kind, drawn: found.drawn, pin: { part, what: f.id } };
	}
	/** Ask why a panel is as wide (x) or as high (y) as it is. */
	async pickSize(part: string, along: 'x' | 'y') {
		this.pickPanel(part);
		const params = { path: { project_id: this.id, part_id: part }, query: { along, ...this.shown } };
		try {
			const found = await this.#picked.only(need(api.GET('/api/projects/{project_id}/parts/{part_id}/size', { params })));
			if (!found) return;
			this.why = {
				title: along === 'x' ? word('build.panels-width') : word('build.panels-height'),
				drawn: found.drawn,
				pin: { part, what: along }
			};
		} catch (e) {
			this.problem = (e as Error).message;
		}
	}
	/** Go to a size that is kept in view. */
	pickPin(pin: Pin) {
		if (pin.what === 'x' || pin.what === 'y') return this.pickSize(pin.part, pin.what);
		const feature = this.out?.parts.find((p) => p.id === pin.part)?.features.find((f) => f.id === pin.what);
		return feature ? this.pickFeature(feature, pin.part) : Promise.resolve();
	}
	/** Where a part's burned picture is to be had; another address whenever the parts are others. */
	pictureOf = (part: string, mark: number) => pictureAddress(this.id, inWhole(this.item, part), mark, this.out?.built_from ?? '');
	/** The joint feature of a part at a point of its plane; small ones before large ones. */
	featureAt(part: string, at: Point, reach: number): FeatureOut | null {
		const some = this.out?.parts.find((p) => p.id === part)?.features.filter((f) => inside(at, f.corners, reach)) ?? [];
		return some.sort((a, b) => a.width_mm - b.width_mm)[0] ?? null;
	}
}
