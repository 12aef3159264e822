/**
 * What the screens say. Each station has a catalogue (`english/<station>.json`) of messages in the ICU format: a label's key is the
 * beginning of its English. Sentences of the server come ready from its own catalogue (`notchcore/words`).
 * Another language is one file, `public/words/<language>.json`, of the same stations and keys; what it lacks is said in English.
 */
import { IntlMessageFormat } from 'intl-messageformat';
import answers from './english/answers.json';
import build from './english/build.json';
import common from './english/common.json';
import cutPlan from './english/cut-plan.json';
import dryFit from './english/dry-fit.json';
import layOut from './english/lay-out.json';
import run from './english/run.json';
import sheets from './english/sheets.json';
import shell from './english/shell.json';
import start from './english/start.json';

const english = { answers, build, common, 'cut-plan': cutPlan, 'dry-fit': dryFit, 'lay-out': layOut, run, sheets, shell, start };
type English = typeof english;
export type Key = { [S in keyof English]: `${S}.${keyof English[S] & string}` }[keyof English];
export type Words = Partial<Record<keyof English, Record<string, string>>>;
type Facts = Record<string, string | number | null | undefined>;

let language = 'en';
let words: Words = english;
const messages = new Map<Key, IntlMessageFormat>();

/** The language in which numbers and dates are written. */
export const locale = () => (language === 'en' ? 'en-GB' : language);

/** From now on in this language; labels that stand already are not said again. */
export function speak(tongue: string, said: Words): void {
	[language, words] = [tongue, said];
	messages.clear();
}

/** The message of a key, with its facts in their places. */
export function word(key: Key, facts?: Facts): string {
	let message = messages.get(key);
	if (!message) {
		const [station, name] = key.split('.') as [keyof English, string];
		const own = words[station]?.[name];
		const text = own ?? (english[station] as Record<string, string>)[name] ?? key;
		message = new IntlMessageFormat(text, own === undefined ? 'en' : language, undefined, { ignoreTag: true });
		messages.set(key, message);
	}
	return message.format(facts) as string;
}
