/** The screens' words in another language: a file beside the bundle. */
import type { Words } from '../words/words';

/** What is said in a language; nothing, so that all is said in English, where its file is not there or cannot be had. */
export async function wordsOf(language: string): Promise<Words> {
	try {
		const file = await fetch(`${import.meta.env.BASE_URL}words/${language}.json`);
		return file.ok ? ((await file.json()) as Words) : {};
	} catch {
		return {};
	}
}
