/** What a variation sets, in words. */
import type { DesignFamily } from '../../api/types';
import type { Sets } from '../../app/variations';
import { word } from '../../words/words';

export function setName(s: Sets, family: DesignFamily): string {
	if (s.of === 'sizes') return word('build.all-its-sizes');
	if (s.of === 'numbers') return family.numbers.find((n) => n.name === s.name)?.label.toLowerCase() ?? s.name;
	return word('build.stock-of-role', { label: family.roles.find((r) => r.id === s.name)?.label.toLowerCase() ?? s.name });
}
