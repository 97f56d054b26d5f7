/** Whether a key belongs to where it was pressed: a list that is chosen from, a field that is typed into. A slider's arrows move it. */
export const belongsElsewhere = (event: KeyboardEvent): boolean =>
	event.altKey ||
	event.ctrlKey ||
	event.metaKey ||
	(event.target instanceof Element &&
		event.target.closest('select, textarea, input:not([type=range])') !== null);

/** Whether Enter or Space presses what has the focus. */
export const pressesFocused = ({ target }: KeyboardEvent): boolean =>
	target instanceof Element && target.closest('button, a, input') !== null;
