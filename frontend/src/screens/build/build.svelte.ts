/** What Build shows: the assembly of the head revision, and what is picked in it. */
import { api, need } from '../../api/client';
import type { BuildOut, FeatureOut, MeetingOut, Point } from '../../api/types';

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
	meeting = $state('');
	feature = $state('');
	detail = $state.raw<MeetingOut | null>(null);
	problem = $state('');

	part = $derived(this.out?.parts.find((p) => p.id === this.panel) ?? null);
	names = $derived(new Map(this.out?.parts.map((p) => [p.id, p.label]) ?? []));
	odds = $derived(new Map(this.out?.odds.map((o) => [o.meeting, o]) ?? []));
	colours = $derived(Object.fromEntries(Object.entries(this.out?.stocks ?? {}).map(([k, s]) => [k, s.colour])));
	lit = $derived(new Set(this.meeting ? [this.detail?.meeting.a ?? '', this.detail?.meeting.b ?? ''] : this.panel ? [this.panel] : []));
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

	constructor(readonly id: number) {}

	async load() {
		try {
			this.out = await need(api.GET('/api/projects/{project_id}/build', { params: { path: { project_id: this.id } } }));
			this.problem = '';
			if (!this.out.parts.some((p) => p.id === this.panel)) this.panel = '';
			if (this.meeting && !this.out.meetings.some((m) => m.id === this.meeting)) this.clear();
			if (this.meeting) await this.pickMeeting(this.meeting, this.feature);
		} catch (e) {
			this.problem = (e as Error).message;
		}
	}

	clear() {
		[this.panel, this.meeting, this.feature, this.detail] = ['', '', '', null];
	}
	pickPanel(id: string) {
		this.clear();
		this.panel = id;
	}
	async pickMeeting(id: string, feature = '') {
		const params = { path: { project_id: this.id, meeting_id: id } };
		this.detail = await need(api.GET('/api/projects/{project_id}/meetings/{meeting_id}', { params }));
		this.meeting = id;
		const all = this.detail.features;
		const wanted =
			all.find((f) => f.feature.id === feature) ?? all.find((f) => ['slot', 'notch', 'lap'].includes(f.feature.kind)) ?? all[0];
		this.feature = wanted?.feature.id ?? '';
		if (wanted) this.panel = wanted.feature.part;
		else this.panel = this.detail.meeting.a;
	}
	pickFeature(f: FeatureOut) {
		return this.pickMeeting(f.meeting, f.id);
	}
	/** The joint feature of a part at a point of its plane; small ones before large ones. */
	featureAt(part: string, at: Point, reach: number): FeatureOut | null {
		const some = this.out?.parts.find((p) => p.id === part)?.features.filter((f) => inside(at, f.corners, reach)) ?? [];
		return some.sort((a, b) => a.width_mm - b.width_mm)[0] ?? null;
	}
}
