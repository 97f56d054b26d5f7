<script lang="ts">
	/** When something was read or done: now, until another moment is chosen. */
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
	// svelte-ignore state_referenced_locally
	let typed = $state(at ? DateTime.fromISO(at, { zone: timeZone }).toFormat(FIELD) : '');
	function take(text: string) {
		typed = text;
		at = momentIn(text, timeZone, currentTime(now));
	}
</script>

{#if at === undefined}
	<span class="text-sm"
		><span class="text-faint">When:</span> now
		<button type="button" class="min-h-11 px-2 text-plum underline" onclick={() => take(present())} data-when
			>another day</button
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
				bind:value={() => typed, take}
				aria-invalid={at === null ? 'true' : undefined}
			/></Label
		>
		<button type="button" class="min-h-11 px-2 text-plum underline" onclick={() => (at = undefined)}
			>now</button
		>
		{#if at === null}<span class="text-sm text-brick" role="alert">▲ {NO_MOMENT}</span>{/if}
	</span>
{/if}
