/** Colours of stocks on the screen: each new one gets a shade that no other has, until a person picks its own. */

const rgb = (hex: string) => [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16));
const hex = (parts: readonly number[]) =>
	`#${parts
		.map((v) =>
			Math.round(Math.min(Math.max(v, 0), 255))
				.toString(16)
				.padStart(2, '0')
		)
		.join('')}`;
const APART = [36, 24, 14, 6]; // in red, green and blue together: what an eye tells apart side by side, or nearly
const STEPS = [0, -0.16, 0.14, -0.3, 0.26, -0.42, 0.36, -0.52];
const TINTS = [
	[0, 0, 0],
	[14, 0, -14],
	[-14, 6, 10],
	[4, -12, 8]
];

/** A shade of a colour that is none of the taken ones. */
export function freshColour(base: string, taken: readonly string[]): string {
	const others = taken.filter((c) => /^#[0-9a-f]{6}$/i.test(c)).map(rgb);
	const free = (c: readonly number[], apart: number) => others.every((o) => o.reduce((sum, v, k) => sum + Math.abs(v - c[k]!), 0) >= apart);
	for (const apart of APART)
		for (const tint of TINTS)
			for (const step of STEPS) {
				const shade = rgb(base).map((v, k) => Math.min(Math.max((step < 0 ? v * (1 + step) : v + (255 - v) * step) + tint[k]!, 0), 255));
				if (free(shade, apart)) return hex(shade);
			}
	return base;
}
