<script lang="ts">
	/** When something was read or done: now, until another moment is chosen. */
	import { tick } from 'svelte';
	import { DateTime } from 'luxon';
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import { currentTime } from '$lib/ui/clock';
	import { NO_MOMENT, momentIn } from './moment';

	interface Props {
		now: string;
		timeZone: string;
		/** ISO 8601 with its zone; nothing for now, null where what stands there is no moment that was. */
		at: string | null | undefined;
	}
	let { now, timeZone, at = $bindable() }: Props = $props();
	const FIELD = "yyyy-MM-dd'T'HH:mm";
	const present = () => DateTime.fromJSDate(currentTime(now), { zone: timeZone }).toFormat(FIELD);
	/** What stands there and is no moment. */
	let typed = $state('');
	const shown = $derived(at ? DateTime.fromISO(at, { zone: timeZone }).toFormat(FIELD) : typed);
	function take(text: string) {
		typed = text;
		at = momentIn(text, timeZone, currentTime(now));
	}
	/** One takes the place of the other: the keyboard stays. */
	let field: HTMLInputElement | undefined = $state();
	let other: HTMLButtonElement | undefined = $state();
	async function another() {
		take(present());
		await tick();
		field?.focus();
	}
	async function back() {
		at = undefined;
		await tick();
		other?.focus();
	}
</script>

{#if at === undefined}
	<span class="text-sm"
		><span class="text-faint">When:</span> now
		<button type="button" bind:this={other} class="link px-2" onclick={another} data-when>another day</button
		></span
	>
{:else}
	<span class="flex flex-wrap items-end gap-2">
		<Label
			>When
			<Input
				type="datetime-local"
				class="w-56!"
				max={present()}
				bind:elementRef={field}
				bind:value={() => shown, take}
				aria-invalid={at === null ? 'true' : undefined}
			/></Label
		>
		<button type="button" class="link px-2" onclick={back}>now</button>
		{#if at === null}<span class="text-sm text-brick" role="alert">▲ {NO_MOMENT}</span>{/if}
	</span>
{/if}
