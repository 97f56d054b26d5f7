/** What is wider than its place scrolls by itself; as long as it does, keys reach it (WCAG 2.1.1). Names and roles are the caller's. */
export function scrolls(area: HTMLElement): () => void {
	const look = () =>
		area.scrollWidth > area.clientWidth
			? area.setAttribute('tabindex', '0')
			: area.removeAttribute('tabindex');
	const sizes = new ResizeObserver(look);
	for (const e of [area, ...area.children]) sizes.observe(e);
	return () => sizes.disconnect();
}
