/** Things of which one may take another's place are listed together once there are many of them. */
export const FEW = 3;

/** One row of a list: a thing by itself, or the first of many that are alike. */
export interface Row<T> {
	first: T;
	all: readonly T[];
	/** it belongs to the many above it */
	within: boolean;
}

/** Rows for things in their order; many alike come at the place of the first, all of them below it while they are open. */
export function rowsOf<T>(things: readonly T[], like: (t: T) => string, open: (like: string) => boolean): Row<T>[] {
	const groups = new Map<string, T[]>();
	for (const t of things) groups.set(like(t), [...(groups.get(like(t)) ?? []), t]);
	const done = new Set<string>();
	return things.flatMap((t) => {
		const all = groups.get(like(t))!;
		if (all.length <= FEW) return [{ first: t, all: [t], within: false }];
		if (done.has(like(t))) return [];
		done.add(like(t));
		const each = open(like(t)) ? all.map((one) => ({ first: one, all: [one], within: true })) : [];
		return [{ first: t, all, within: false }, ...each];
	});
}

/** The same for things that follow each other: those that are alike and stand apart stay apart. */
export function runsOf<T>(things: readonly T[], like: (t: T) => string): T[][] {
	const runs: T[][] = [];
	for (const t of things) {
		const last = runs.at(-1);
		if (last && like(t) && like(last[0]!) === like(t)) last.push(t);
		else runs.push([t]);
	}
	return runs.flatMap((run) => (run.length > FEW ? [run] : run.map((t) => [t])));
}
