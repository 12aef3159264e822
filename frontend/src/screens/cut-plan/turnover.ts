const TURN_MS = 600;

/** Show a sheet being turned over: narrower and narrower, another at the half, and as wide as before. */
export function turnOver(half: () => void, seen: (share: number) => void) {
	const begun = performance.now();
	requestAnimationFrame(function tick(now) {
		const share = Math.min((now - begun) / TURN_MS, 1);
		if (share >= 0.5) half();
		seen(share < 1 ? Math.abs(Math.cos(share * Math.PI)) : 1);
		if (share < 1) requestAnimationFrame(tick);
	});
}
