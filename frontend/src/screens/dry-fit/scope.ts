/** What is there at a step: a sub-assembly is put together apart, and goes in as one. */
import type { GuideStep, Step } from '../../api/types';
import type { Pull } from '../../lib/mat/pull';
import { show, unitName, type Unit } from '../../lib/units/units';
import { word } from '../../words/words';

export type AnyStep = Step | GuideStep;

/** Key of the step with which the sub-assembly goes in that a step belongs to; empty for the thing itself. */
export const withinOf = (s: AnyStep): string => ('within' in s && s.within) || '';

/** The steps up to one that are seen with it. */
const withIt = (steps: readonly AnyStep[], at: number) => steps.slice(0, at + 1).filter((s) => withinOf(s) === withinOf(steps[at]!));

/** Nothing is there yet: it is laid down. */
export const firstOfItsOwn = (steps: readonly AnyStep[], at: number): boolean => withIt(steps, at).length === 1;

/** Parts that are not there at a step. */
export function notThere(steps: readonly AnyStep[], at: number): Set<string> {
	const there = new Set(withIt(steps, at).flatMap((s) => s.parts));
	return new Set(steps.flatMap((s) => s.parts).filter((p) => !there.has(p)));
}

type Three = [number, number, number];
const END = 0.7; // of a step's time the long way takes, where something is done at its end

/** Where a step's parts stand when a share of their way in is done. */
export function pullOf(step: AnyStep, share: number, from: number): Pull {
	const { last, tip } = step;
	const [long, end] = last || tip ? [Math.min(share / END, 1), Math.max((share - END) / (1 - END), 0)] : [share, 0];
	const short = last ? step.last_mm! * (1 - Math.min(end, 1)) : 0;
	const by = [0, 1, 2].map((k) => -step.direction[k]! * from * (1 - long) - (last ? last[k]! * short : 0)) as Three;
	return tip ? { by, tip: { point: tip.point as Three, axis: tip.axis as Three, degrees: tip.degrees * (1 - Math.min(end, 1)) } } : { by };
}

/** How far each part of a step stands from its place while it goes in; nothing stands apart when all is together. */
export function offsetsOf(steps: readonly AnyStep[], at: number, share: number, from: number): Map<string, Pull> {
	const step = steps[at];
	if (!step || firstOfItsOwn(steps, at)) return new Map();
	return new Map(step.parts.map((p) => [p, pullOf(step, share, from)]));
}

const WAYS: [number, number, string, string][] = [
	[2, -1, word('dry-fit.from-above'), word('dry-fit.down')],
	[2, 1, word('dry-fit.from-below'), word('dry-fit.up')],
	[0, 1, word('dry-fit.from-the-left'), word('dry-fit.to-the-right')],
	[0, -1, word('dry-fit.from-the-right'), word('dry-fit.to-the-left')],
	[1, 1, word('dry-fit.from-the-front'), word('dry-fit.to-the-back')],
	[1, -1, word('dry-fit.from-behind'), word('dry-fit.to-the-front')]
];
const along = (d: readonly number[]) => WAYS.find(([axis, sign]) => d[axis]! * sign > 0.7);

/** How a step's parts go in, in words. */
export function wayIn(step: AnyStep, unit: Unit): string {
	const words = [along(step.direction)?.[2] ?? word('dry-fit.at-a-slant')];
	if (step.tip) words.push(word('dry-fit.tilted-by-then-turned-into-place', { degrees: Math.abs(step.tip.degrees).toFixed(0) }));
	if (step.last)
		words.push(
			word('dry-fit.then', {
				unit: show(step.last_mm!, unit),
				unit2: unitName(unit),
				slant: along(step.last)?.[3] ?? word('dry-fit.at-a-slant')
			})
		);
	return words.join(', ');
}
