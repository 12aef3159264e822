/** Panels that a person added: which of their numbers can be changed, and what each is called. */
import type { Added, PartOut } from '../../api/types';
import { word } from '../../words/words';
import { AXES, normalOf } from './moves';

type Vec = readonly number[];
const ENDS: readonly (readonly [string, string])[] = [
	[word('build.left-end'), word('build.right-end')],
	[word('build.front-end'), word('build.back-end')],
	[word('build.lower-end'), word('build.upper-end')]
];

/** The low and the high end of a panel that stands between two others of this normal, square to an axis. */
export function endNames(axis: 'x' | 'y' | 'z', normal: Vec): readonly [string, string] {
	const a = AXES.findIndex((x) => x.id === axis);
	const [i, j] = [(a + 1) % 3, (a + 2) % 3];
	// the axis times the normal: along i runs -n[j], along j runs n[i]
	const [k, along] = Math.abs(normal[j]!) > Math.abs(normal[i]!) ? [i, -normal[j]!] : [j, normal[i]!];
	const [low, high] = ENDS[k]!;
	return along > 0 ? [low, high] : [high, low];
}

/** How a panel between two others slopes: how much farther it lies at its high end, and on the other panel. */
export function slopes(axis: 'x' | 'y' | 'z', high: string, other: string) {
	const farther = { x: 'build.farther-right', y: 'build.farther-back', z: 'build.farther-up' } as const;
	return [
		{ key: 'rise' as const, name: word(farther[axis], { at: high }) },
		{ key: 'over' as const, name: word(farther[axis], { at: other }) }
	];
}

export interface AddedNumber {
	key: string;
	name: string;
	value: number;
}

/** The numbers of an added panel, in the order in which a form shows them; none for a copy, which follows its original. */
export function numbersOf(item: Added, parts: readonly PartOut[]): AddedNumber[] {
	if (item.kind === 'between') {
		const host = parts.find((p) => p.panel === item.a);
		const [low, high] = endNames(item.axis, host ? normalOf(host) : [0, 0, 0]);
		return [
			{ key: 'at', name: word('build.where-2', { name: AXES.find((a) => a.id === item.axis)!.name }), value: item.at },
			...slopes(item.axis, high, parts.find((p) => p.panel === item.b)?.label ?? item.b).map((s) => ({ ...s, value: item[s.key] ?? 0 })),
			{ key: 'inset_low', name: word('build.kept-back', { end: low }), value: item.inset_low ?? 0 },
			{ key: 'inset_high', name: word('build.kept-back', { end: high }), value: item.inset_high ?? 0 }
		];
	}
	if (item.kind === 'on_face')
		return [
			{ key: 'width', name: word('build.width'), value: item.width },
			{ key: 'height', name: word('build.height-2'), value: item.height },
			// plates of before count from their host's own origin, which nobody sees: those are moved instead
			...(item.from_corner
				? [
						{ key: 'x', name: word('build.from-its-left-edge'), value: item.x },
						{ key: 'y', name: word('build.from-its-lower-edge'), value: item.y }
					]
				: [])
		];
	if (item.kind === 'gusset')
		return [
			{ key: 'size', name: word('build.size'), value: item.size },
			{ key: 'at', name: word('build.from-the-middle'), value: item.at }
		];
	return [];
}
