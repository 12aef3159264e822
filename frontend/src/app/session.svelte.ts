/** Who is signed in, and how they read lengths. */
import { api, need, speech } from '../api/client';
import type { Me, Sentence } from '../api/types';
import { plainly, sized, type Unit } from '../lib/units/units';

class Session {
	me = $state<Me | null>(null);
	unit = $derived((this.me?.unit ?? 'mm') as Unit);
	/** Whether this person may change designs and layouts. */
	designs = $derived(this.me?.role === 'owner' || this.me?.role === 'designer');
	/** A sentence of the program, with its lengths as this person reads them; nothing for none. */
	told = (says: Pick<Sentence, 'spans'> | null | undefined) => (says ? plainly(says.spans, this.unit) : '');
	/** A length with its unit. */
	length = (mm: number, digits = 1) => sized([mm], this.unit, digits);

	async load() {
		this.me = await need(api.GET('/api/me'));
	}
	async signIn(username: string, password: string) {
		this.me = await need(api.POST('/api/sign-in', { body: { username, password } }));
	}
	async signOut() {
		this.me = await need(api.POST('/api/sign-out'));
	}
	/** At once, so that what is typed next is read in it; the server keeps it for the next time. */
	async chooseUnit(unit: Unit) {
		const before = this.me;
		if (before) this.me = { ...before, unit };
		try {
			this.me = await need(api.PUT('/api/me/unit', { body: { unit } }));
		} catch (e) {
			this.me = before;
			throw e;
		}
	}
}

export const session = new Session();
speech.told = session.told;
