/**
 * Escape folds in what was folded out around the focus, innermost first, and the focus stays on what opens it again. A panel is the
 * `<details>` around the focus, or what a button with `aria-expanded` names in its `aria-controls`.
 */
export function foldIn(event: KeyboardEvent): void {
	if (event.key !== 'Escape' || event.defaultPrevented) return;
	for (let e = document.activeElement; e; e = e.parentElement) {
		const opener = e.matches('[aria-expanded=true]')
			? e
			: e.matches('details[open]')
				? e.querySelector('summary')
				: e.id && document.querySelector(`[aria-expanded=true][aria-controls=${CSS.escape(e.id)}]`);
		if (!(opener instanceof HTMLElement)) continue;
		opener.focus();
		opener.click();
		return;
	}
}
