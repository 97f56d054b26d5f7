<script lang="ts">
	/** One labelled field of a form; what is wrong with it stands beneath, and what was typed stays. */
	import type { HTMLInputAttributes } from 'svelte/elements';
	import Helper from 'flowbite-svelte/Helper.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';

	interface Props extends Pick<
		HTMLInputAttributes,
		'autocomplete' | 'autofocus' | 'inputmode' | 'placeholder' | 'required' | 'type'
	> {
		name: string;
		label: string;
		value?: string | number | null | undefined;
		maxlength?: number;
		problem?: string | undefined;
		hint?: string;
		class?: string;
		oninput?: (event: Event) => void;
	}
	let { name, label, value, problem, hint, class: extra = '', ...rest }: Props = $props();
	const id = $props.id();
</script>

<div class="mt-3 {extra}">
	<Label for={id}>{label}</Label>
	<Input
		type="text"
		{...rest}
		{id}
		{name}
		value={value ?? ''}
		aria-invalid={problem ? 'true' : undefined}
		aria-describedby="problem-{id}"
	/>
	<Helper id="problem-{id}" color={problem ? 'red' : 'gray'} role={problem ? 'alert' : undefined}
		>{problem ? `▲ ${problem}` : (hint ?? '')}</Helper
	>
</div>
