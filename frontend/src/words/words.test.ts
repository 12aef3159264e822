/** The catalogue and its users say the same: every key is used, every fact is given, and every fact that is given is told. */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { IntlMessageFormat } from 'intl-messageformat';
import { parse, type AST } from 'svelte/compiler';
import { afterEach, describe, expect, it } from 'vitest';
import { speak, word, type Key } from './words';

const SRC = join(import.meta.dirname, '..');
const stations = readdirSync(join(import.meta.dirname, 'english')).map((f) => f.replace('.json', ''));
const english = new Map(
	stations.flatMap((s) =>
		Object.entries(JSON.parse(readFileSync(join(import.meta.dirname, 'english', `${s}.json`), 'utf8')) as Record<string, string>).map(
			([k, v]) => [`${s}.${k}` as string, v] as const
		)
	)
);
const sources = readdirSync(SRC, { recursive: true, encoding: 'utf8' })
	.filter((f) => /\.(svelte|ts)$/.test(f) && !/\.test\.ts$|words\.ts$/.test(f))
	.map((f) => readFileSync(join(SRC, f), 'utf8'));
const used = new Set(
	sources.flatMap((s) => [...s.matchAll(new RegExp(`'((?:${stations.join('|')})\\.[a-z0-9-]+)'`, 'g'))].map((m) => m[1]!))
);
type Element = ReturnType<IntlMessageFormat['getAst']>[number];
const namesIn = (some: Element[]): string[] =>
	some.flatMap((e) => [
		...(e.type === 0 || e.type === 7 ? [] : [e.value]),
		...('options' in e ? Object.values(e.options).flatMap((o) => namesIn(o.value)) : [])
	]);
const factsOf = (message: string) => [...new Set(namesIn(new IntlMessageFormat(message, 'en', undefined, { ignoreTag: true }).getAst()))];

/** The names of what is given with a key at one place: the object after it, read as far as its own commas. */
function given(source: string, from: number): string[] | null {
	const start = /^\s*,\s*\{/.exec(source.slice(from));
	if (!start) return /^\s*\)/.test(source.slice(from)) ? [] : null;
	const names: string[] = [];
	let [depth, at, fresh] = [1, from + start[0].length, true];
	while (depth > 0 && at < source.length) {
		const name = fresh && depth === 1 ? /^\s*(\w+)\s*(?=[:,}])/.exec(source.slice(at)) : null;
		if (name) {
			names.push(name[1]!);
			at += name[0].length;
			fresh = false;
		} else {
			const c = source[at++]!;
			depth += '([{'.includes(c) ? 1 : ')]}'.includes(c) ? -1 : 0;
			if (depth === 1) fresh = c === ',';
		}
	}
	return names;
}

/** The texts that an expression may come to, but for what it asks others for. */
function saidBy(node: unknown): string[] {
	if (Array.isArray(node)) return node.flatMap(saidBy);
	if (!node || typeof node !== 'object') return [];
	const n = node as Record<string, unknown>;
	if (n.type === 'Literal') return typeof n.value === 'string' ? [n.value] : [];
	if (n.type === 'TemplateElement') return [(n.value as { cooked: string }).cooked];
	if (n.type === 'ConditionalExpression') return saidBy([n.consequent, n.alternate]);
	if (n.type === 'LogicalExpression') return saidBy(n.operator === '&&' ? n.right : [n.left, n.right]);
	if (n.type === 'TemplateLiteral') return saidBy([n.quasis, n.expressions]);
	return n.type === 'ObjectExpression' ? saidBy((n.properties as { value?: unknown }[]).map((p) => p.value)) : [];
}

/** What a component shows that is written in it: texts, attributes that are read, and facts of its messages. */
function written(source: string): string[] {
	const found: string[] = [];
	const read = new Set(['aria-label', 'label', 'title', 'placeholder', 'alt', 'suffix', 'none', 'use']);
	const take = (text: string) => void (/\p{L}{3}/u.test(text) && found.push(text));
	const walk = (node: unknown, attribute = ''): void => {
		if (Array.isArray(node)) return node.forEach((n) => walk(n, attribute));
		if (!node || typeof node !== 'object') return;
		const n = node as AST.SvelteNode & Record<string, unknown>;
		if (n.type === 'Text' && (!attribute || read.has(attribute))) take(n.data as string);
		if ((n.type as string) === 'ExpressionTag' && (!attribute || read.has(attribute))) saidBy(n.expression).forEach(take);
		if ((n.type as string) === 'CallExpression' && (n.callee as { name?: string }).name === 'word')
			saidBy((n.arguments as unknown[])[1]).forEach(take);
		for (const [key, value] of Object.entries(n))
			if (key !== 'metadata') walk(value, n.type === 'Attribute' || n.type === 'StyleDirective' ? (n.name as string) : attribute);
	};
	const { fragment, instance, module } = parse(source, { modern: true });
	walk(fragment);
	walk([instance?.content, module?.content], 'script');
	return found;
}

describe('the catalogue of the screens', () => {
	afterEach(() => speak('en', {}));

	it('holds nothing that no screen says, and all that they say', () => {
		expect([...english.keys()].filter((k) => !used.has(k))).toEqual([]);
		expect([...used].filter((k) => !english.has(k))).toEqual([]);
	});
	it('is given at every place just the facts that a message tells', () => {
		const wrong: string[] = [];
		for (const source of sources) {
			for (const m of source.matchAll(/\bword\(\s*'([\w.-]+)'/g)) {
				const names = given(source, m.index + m[0].length);
				if (
					names &&
					names.sort().join() !==
						factsOf(english.get(m[1]!) ?? '')
							.sort()
							.join()
				)
					wrong.push(`${m[1]}: ${names}`);
			}
		}
		expect(wrong).toEqual([]);
	});
	it('is where all labels stand: no component has words of its own', () => {
		const own = readdirSync(SRC, { recursive: true, encoding: 'utf8' })
			.filter((f) => f.endsWith('.svelte'))
			.flatMap((f) => written(readFileSync(join(SRC, f), 'utf8')).map((text) => `${f}: ${text.trim()}`));
		expect(own).toEqual([]);
	});
	it('can say every message', () => {
		const said = [...english].map(([key, m]) => word(key as Key, Object.fromEntries(factsOf(m).map((f) => [f, 3]))));
		expect(said.filter((text) => /[{}]|^$/.test(text))).toEqual([]);
	});
	it('counts in words, in the language that is spoken, and says in English what that one lacks', () => {
		expect([1, 2].map((n) => word('run.part', { parts: n }))).toEqual(['1 part', '2 parts']);
		speak('pl', { run: { part: '{parts, plural, one {# sztuka} few {# sztuki} many {# sztuk} other {#}}' } });
		expect([1, 3, 5].map((n) => word('run.part', { parts: n }))).toEqual(['1 sztuka', '3 sztuki', '5 sztuk']);
		expect(word('start.name')).toBe('Name');
	});
});
