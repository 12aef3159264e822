import { describe, expect, it, vi } from 'vitest';
import type { Design, ProjectOut } from '../api/types';
import { reading } from '../lib/ui/pending.svelte';
import { ProjectState } from './project.svelte';

/** A server with one project: refuses a save that is not on top of its head. */
function server() {
	const state = {
		revision: 1,
		design: { numbers: { width: 100, height: 50 }, choices: {} } as unknown as Design
	};
	const project = () => ({ id: 1, name: 'box', ...state }) as unknown as ProjectOut;
	const saves: number[] = [];
	const answer = (status: number, body: unknown) =>
		new Response(JSON.stringify(body), {
			status,
			headers: { 'Content-Type': 'application/json' }
		});
	vi.stubGlobal('fetch', async (request: Request) => {
		await new Promise((done) => setTimeout(done, 5));
		if (request.url.endsWith('/strip')) return answer(200, []);
		if (request.method === 'GET') return answer(200, project());
		const body = (await request.json()) as { base: number; design: Design };
		saves.push(body.base);
		if (body.base !== state.revision) return answer(409, { message: 'saved meanwhile', theirs: project() });
		state.revision += 1;
		state.design = body.design;
		return answer(200, project());
	});
	return { state, saves };
}

describe('an open project', () => {
	it('saves quick changes one after the other, each on top of the one before', async () => {
		const { state, saves } = server();
		const work = new ProjectState(1);
		await work.load();
		await Promise.all([work.setNumbers({ width: 120 }, 'wider'), work.setNumbers({ height: 70 }, 'higher')]);
		expect(saves).toEqual([1, 2]);
		expect(state.design.numbers).toMatchObject({ width: 120, height: 70 });
		expect(work.conflict).toBeNull();
	});
	it('saves what was typed before what was done after it, however long the number takes to be read', async () => {
		const { state } = server();
		const work = new ProjectState(1);
		await work.load();
		const typed = reading(new Promise<number>((done) => setTimeout(() => done(80), 30))).then((mm) =>
			work.setNumbers({ width: mm }, 'typed')
		);
		const wider = (d: Design) => ({ ...d, numbers: { ...d.numbers, width: (d.numbers as { width: number }).width + 1 } }) as Design;
		await Promise.all([work.save(wider, 'dragged by 1'), typed]);
		expect(state.design.numbers).toMatchObject({ width: 81 });
	});
	it('is not taken back by a look at the server that a change of ours overtook', async () => {
		vi.useFakeTimers({ shouldAdvanceTime: true });
		server();
		const work = new ProjectState(1);
		await work.load();
		const before = await fetch(new Request('http://localhost/api/projects/1'));
		const answering = globalThis.fetch;
		let look: (r: Response) => void = () => {};
		vi.stubGlobal('fetch', () => new Promise<Response>((done) => (look = done)));
		const stop = work.watch();
		await vi.advanceTimersByTimeAsync(4100);
		vi.stubGlobal('fetch', answering);
		await work.setNumbers({ width: 120 }, 'wider');
		look(before);
		await vi.advanceTimersByTimeAsync(100);
		expect([work.project?.revision, work.notice]).toEqual([2, '']);
		stop();
		vi.useRealTimers();
	});
	it('makes my change again on top of theirs, so that both stand', async () => {
		const { state } = server();
		const work = new ProjectState(1);
		await work.load();
		state.revision = 2;
		state.design = { ...state.design, numbers: { ...state.design.numbers, height: 70 } as Design['numbers'] };
		await work.setNumbers({ width: 120 }, 'wider');
		expect(work.conflict?.message).toBe('saved meanwhile');
		await work.saveMine();
		expect(state.design.numbers).toMatchObject({ width: 120, height: 70 });
	});
	it('makes a change of one item again in that item, whatever is open by then', async () => {
		const { state } = server();
		const drawer = { id: 'drawer', label: 'Drawer', design: { numbers: { width: 90 } } };
		state.design = { ...state.design, items: [drawer] } as unknown as Design;
		const work = new ProjectState(1);
		await work.load();
		state.revision = 2;
		work.item = 'drawer';
		await work.setNumbers({ height: 30 }, 'higher');
		work.item = 'main';
		await work.saveMine();
		expect(state.design.items![0]!.design.numbers).toMatchObject({ width: 90, height: 30 });
		expect(state.design.numbers).toMatchObject({ width: 100, height: 50 });
		work.item = 'drawer';
		state.revision = 7;
		await work.setNumbers({ height: 31 }, 'higher still');
		await work.saveMine(); // still open: it is not looked for within itself
		expect(state.design.items![0]!.design.numbers).toMatchObject({ height: 31 });
	});
	it('drops a choice that says nothing any more', async () => {
		const { state } = server();
		const work = new ProjectState(1);
		await work.load();
		await work.setChoice('a+b', { feel: 'slides' }, 'slides', ['c+d']);
		expect(Object.keys(state.design.choices ?? {})).toEqual(['a+b', 'c+d']);
		await work.setChoice('a+b', { feel: null }, 'as the box');
		expect(Object.keys(state.design.choices ?? {})).toEqual(['c+d']);
	});
	it('goes on after a lost line', async () => {
		const { state } = server();
		const work = new ProjectState(1);
		await work.load();
		const good = globalThis.fetch;
		vi.stubGlobal('fetch', () => Promise.reject(new TypeError('offline')));
		await expect(work.setNumbers({ width: 130 }, 'wider')).rejects.toThrow('does not answer');
		vi.stubGlobal('fetch', good);
		await work.setNumbers({ width: 140 }, 'wider');
		expect(state.design.numbers).toMatchObject({ width: 140 });
	});
});
