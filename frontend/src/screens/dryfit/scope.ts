/** What is there at a step: a sub-assembly is put together apart, and goes in as one. */
import type { GuideStep, Step } from '../../api/types';

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
