/** What opens below what is seen comes into view, and again when it is given something else: {@attach intoView(open)}. */
export function intoView(open: unknown = true): (node: Element) => void {
	return (node) => {
		if (open) node.scrollIntoView?.({ block: 'nearest' });
	};
}
