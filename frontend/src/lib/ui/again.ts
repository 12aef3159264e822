const PATIENCE_MS = 15_000; // an answer that takes longer is taken for lost

/**
 * Ask again every so often [ms]; on a slow line the next question waits for the answer before, so that they do not pile up.
 * Ends with what it returns.
 */
export function repeated(every: number, ask: () => Promise<unknown>): () => void {
	let since = 0; // when the question was asked whose answer is awaited; 0: none is
	const timer = setInterval(async () => {
		if (since && performance.now() - since < PATIENCE_MS) return;
		const mine = (since = performance.now());
		await ask().catch(() => {}); // told by what asks; the next one may come through
		if (since === mine) since = 0;
	}, every);
	return () => clearInterval(timer);
}
