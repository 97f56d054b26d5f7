<script lang="ts">
	/** A number that belongs to a reading, as it is typed. */
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';

	interface Props {
		label: string;
		example: string;
		text: string;
		ontext: (text: string) => void;
	}
	let { label, example, text, ontext }: Props = $props();
</script>

<Label>
	{label}
	<Input class="figure w-28!" inputmode="decimal" placeholder={example} bind:value={() => text, ontext} />
</Label>
