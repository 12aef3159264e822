import createClient, { type Middleware } from 'openapi-fetch';
import type { paths } from './schema';
import type { Sentence } from './types';
import { word } from '../words/words';

function cookie(name: string): string {
	return (
		document.cookie
			.split('; ')
			.find((c) => c.startsWith(name + '='))
			?.slice(name.length + 1) ?? ''
	);
}

const csrf: Middleware = {
	onRequest({ request }) {
		if (!['GET', 'HEAD', 'OPTIONS'].includes(request.method)) request.headers.set('X-CSRFToken', cookie('csrftoken'));
		return request;
	}
};

export const api = createClient<paths>({
	baseUrl: window.location.origin,
	credentials: 'same-origin',
	// looked up at each call, so that a test can replace it
	fetch: (request) => globalThis.fetch(request)
});
api.use(csrf);

/** What went wrong, as the server tells it: a sentence for people, and the numbers behind it. */
export class Problem extends Error {
	constructor(
		readonly code: string,
		message: string,
		readonly facts: Record<string, unknown> = {},
		readonly status = 0
	) {
		super(message);
	}
}

/** How sentences of the server are told; whoever knows the person's unit sets it. */
export const speech = { told: (says: Pick<Sentence, 'spans'>) => says.spans.map((s) => s.text).join('') };

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** Return the data of an answer, or throw its Problem; a dead line is a Problem too. */
export async function need<T>(asked: Promise<Answer<T>>): Promise<T> {
	let answer: Answer<T>;
	try {
		answer = await asked;
	} catch {
		throw new Problem('line.lost', word('shell.the-server-does-not-answer-what'));
	}
	if (answer.error !== undefined || answer.data === undefined) {
		const told = (answer.error ?? {}) as {
			code?: string;
			message?: string;
			says?: Sentence;
			facts?: Record<string, unknown>;
		};
		throw new Problem(
			told.code ?? 'http.unknown',
			told.says ? speech.told(told.says) : (told.message ?? `The server answered ${answer.response.status}. Try again; nothing was lost.`),
			{ ...told.facts, answer: answer.error },
			answer.response.status
		);
	}
	return answer.data;
}
