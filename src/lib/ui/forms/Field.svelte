<script lang="ts">
	/** One labelled field of a form; what is wrong with it stands beneath, and what was typed stays. */
	import type { HTMLInputAttributes } from 'svelte/elements';

	interface Props extends Omit<HTMLInputAttributes, 'value'> {
		name: string;
		label: string;
		value?: string | number | null;
		problem?: string | undefined;
		hint?: string;
	}
	let { name, label, value = '', problem, hint, class: extra = '', ...rest }: Props = $props();
	const id = $props.id();
</script>

<label class="mt-3 block {extra}">
	<span class="block text-sm text-faint">{label}</span>
	<input
		type="text"
		{...rest}
		{name}
		class="block min-h-11 w-full rounded-lg border bg-sheet px-3 text-ink"
		value={value ?? ''}
		aria-invalid={problem ? 'true' : undefined}
		aria-describedby="problem-{id}"
	/>
	<span
		id="problem-{id}"
		class="block text-sm {problem ? 'text-brick' : 'text-faint'}"
		role={problem ? 'alert' : undefined}>{problem ? `▲ ${problem}` : (hint ?? '')}</span
	>
</label>
