/** Number fields read what was typed through the server: a button beside them must wait for that. */
import { tick } from 'svelte';
import { SvelteSet } from 'svelte/reactivity';

const pending = new SvelteSet<Promise<void>>();

export function track(work: Promise<void>): Promise<void> {
	pending.add(work);
	return work.finally(() => pending.delete(work));
}

/** Whether something typed is not read and kept yet. */
export const underway = () => pending.size > 0;

/** Wait until every typed number is read; false when one beside the pressed button makes no sense and still stands there. */
export async function settled(event: Event): Promise<boolean> {
	const root = (event.currentTarget as Element).closest('form, section, aside') ?? document.body;
	while (pending.size) await Promise.allSettled([...pending]);
	await tick();
	const wrong = root.querySelector<HTMLElement>('[aria-invalid="true"]');
	wrong?.focus();
	return !wrong;
}

const reads = new Set<Promise<unknown>>();

/** Read a typed number; what is asked for after it comes after it, however long that takes. */
export async function reading<T>(work: Promise<T>): Promise<T> {
	const mine = work.catch(() => {});
	reads.add(mine);
	try {
		return await work;
	} finally {
		reads.delete(mine); // before it is kept: that must not wait for itself
	}
}

/** Wait for the numbers that are being read now and for their being handed on; null where there are none. */
export function typedBefore(): Promise<unknown> | null {
	return reads.size ? Promise.allSettled([...reads]).then(() => new Promise((done) => setTimeout(done))) : null;
}
