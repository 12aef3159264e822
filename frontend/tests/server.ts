/** A stand-in for the server in component tests: reads numbers, records writes, refuses when told to. */
import { vi } from 'vitest';

export class Server {
	/** method, path and body of every write but the reading of numbers */
	sent: [string, string, unknown][] = [];
	/** why the next writes are refused; null when they are not */
	refuse: string | null = null;

	constructor(answers: (path: string) => unknown) {
		const answer = (status: number, content: unknown) =>
			new Response(JSON.stringify(content), { status, headers: { 'Content-Type': 'application/json' } });
		const problem = (message: string) => answer(422, { code: 'x', message, facts: {} });
		vi.stubGlobal('fetch', async (request: Request) => {
			const path = new URL(request.url).pathname;
			const text = request.method === 'GET' ? '' : await request.text();
			const body = text ? (JSON.parse(text) as { text: string }) : null;
			if (path === '/api/numbers') {
				const number = Number(body!.text);
				return Number.isFinite(number) ? answer(200, { value: number }) : problem('That is not a length.');
			}
			if (body) this.sent.push([request.method, path, body]);
			return request.method !== 'GET' && this.refuse ? problem(this.refuse) : answer(200, answers(path));
		});
	}
}
