/** Who may import whom in the front end, and where the outside begins. */
import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { describe, expect, it } from 'vitest';

const SRC = join(import.meta.dirname, '.');
const files = readdirSync(SRC, { recursive: true, encoding: 'utf8' })
	.filter((f) => /\.(ts|svelte)$/.test(f) && !f.endsWith('.test.ts') && !f.endsWith('schema.d.ts'))
	.map((name) => ({ name, text: readFileSync(join(SRC, name), 'utf8') }));
const area = (name: string) => {
	const [first, second] = name.split('/');
	return first === 'screens' ? `screens/${second}` : first!;
};
const imports = files.flatMap(({ name, text }) =>
	[...text.matchAll(/(?:from|import\()\s*'(\.[^']+)'/g)].map((m) => ({
		from: name,
		to: relative(SRC, join(SRC, name, '..', m[1]!))
	}))
);

describe('the front end', () => {
	it('has screens that do not import each other', () => {
		const crossing = imports.filter(
			({ from, to }) => area(from).startsWith('screens/') && area(to).startsWith('screens/') && area(from) !== area(to)
		);
		expect(crossing).toEqual([]);
	});
	it('has a lib that knows neither screens nor app', () => {
		expect(imports.filter(({ from, to }) => area(from) === 'lib' && !['lib', 'api', 'words'].includes(area(to)))).toEqual([]);
	});
	it('has components that are about one thing: none longer than a page and a half', () => {
		const long = files.filter((f) => f.name.endsWith('.svelte') && f.text.split('\n').length > 151);
		expect(long.map((f) => f.name)).toEqual([]);
	});
	it('talks to the server in one place, and to nothing else', () => {
		const calls = files.filter((f) => /\bfetch\(/.test(f.text) && area(f.name) !== 'api');
		expect(calls.map((f) => f.name)).toEqual([]);
		const outside = files.filter((f) => /https?:\/\/(?!www\.w3\.org)/.test(f.text));
		expect(outside.map((f) => f.name)).toEqual([]);
	});
});
