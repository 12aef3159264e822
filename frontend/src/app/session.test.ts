/** Who is signed in: a unit counts from the moment it is chosen, and goes back when it could not be kept. */
import { beforeEach, describe, expect, it } from 'vitest';
import { Server } from '../../tests/server';
import { session } from './session.svelte';

let server: Server;
beforeEach(() => {
	server = new Server(() => ({ username: 'alder', shop: 'Alder Row Workshop', role: 'owner', unit: 'in/64' }));
	session.me = { username: 'alder', shop: 'Alder Row Workshop', role: 'owner', unit: 'mm' } as typeof session.me;
});

describe('the unit', () => {
	it('is in force before the server has answered', async () => {
		const kept = session.chooseUnit('in/64');
		expect(session.unit).toBe('in/64');
		await kept;
		expect(server.sent).toEqual([['PUT', '/api/me/unit', { unit: 'in/64' }]]);
	});
	it('goes back when the server refuses it', async () => {
		server.refuse = 'This unit is not known.';
		await expect(session.chooseUnit('in')).rejects.toThrow('not known');
		expect(session.unit).toBe('mm');
	});
});
