import { session } from '../../app/session.svelte';
import type { RackState } from './rack.svelte';

/** What is typed until the field for readings has the caret goes into that field: no key is lost. Ends with what it returns. */
export function typedAhead(rack: RackState): () => void {
	const taken = (event: KeyboardEvent) => {
		if (event.ctrlKey || event.metaKey || event.altKey) return;
		if (event.key.length === 1) rack.typed.text += event.key;
		else if (event.key === 'Backspace') rack.typed.text = rack.typed.text.slice(0, -1);
		else if (event.key === 'Enter') {
			rack.typed.enter(rack.typed.text, session.unit, rack.spot, rack.target);
			rack.typed.text = '';
		} else return;
		event.preventDefault();
		event.stopPropagation();
	};
	window.addEventListener('keydown', taken, { capture: true });
	return () => window.removeEventListener('keydown', taken, { capture: true });
}
