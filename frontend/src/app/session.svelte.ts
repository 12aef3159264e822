/** Who is signed in, and how they read lengths. */
import { api, need } from '../api/client';
import type { Me } from '../api/types';
import type { Unit } from '../lib/units/units';

class Session {
	me = $state<Me | null>(null);
	unit = $derived((this.me?.unit ?? 'mm') as Unit);

	async load() {
		this.me = await need(api.GET('/api/me'));
	}
	async signIn(username: string, password: string) {
		this.me = await need(api.POST('/api/sign-in', { body: { username, password } }));
	}
	async signOut() {
		this.me = await need(api.POST('/api/sign-out'));
	}
	async chooseUnit(unit: Unit) {
		this.me = await need(api.PUT('/api/me/unit', { body: { unit } }));
	}
}

export const session = new Session();
