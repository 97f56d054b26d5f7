<script lang="ts">
	/** A method's steps as a list: what to do, in which words, for how long, with what caution. */
	import { numberTyped } from '$core/quick';
	import Button from 'flowbite-svelte/Button.svelte';
	import Checkbox from 'flowbite-svelte/Checkbox.svelte';
	import Input from 'flowbite-svelte/Input.svelte';
	import Label from 'flowbite-svelte/Label.svelte';
	import Select from 'flowbite-svelte/Select.svelte';
	import type { Step } from '$core/instruments';

	interface Props {
		steps: Step[];
		/** Nobody has held them against the leaflet yet. */
		ofTemplate: boolean;
		onchange: (steps: Step[]) => void;
		/** They are those of the leaflet. */
		onsame: () => void;
	}
	let { steps, ofTemplate, onchange, onsame }: Props = $props();

	const ACTS: Step['do'][] = [
		'rinse',
		'measure',
		'dilute',
		'add',
		'mix',
		'wait',
		'filter',
		'titrate',
		'match',
		'read'
	];
	const changeStep = (i: number, part: Partial<Step>) =>
		onchange(steps.map((s, k) => (k === i ? { ...s, ...part } : s)));
	function moveStep(i: number, by: number) {
		const moved = [...steps];
		const [step] = moved.splice(i, 1);
		moved.splice(i + by, 0, step!);
		onchange(moved);
	}
	/** A share as it is typed, of a hundred; none where nothing stands there, and never all of it. */
	const share = (text: string) => {
		const typed = numberTyped(text);
		return text.trim() === '' || !(typed > 0) ? undefined : Math.min(typed, MOST_QUICKLY) / 100;
	};
	/** The rest goes in drop by drop, or the end is missed, %. */
	const MOST_QUICKLY = 95;
	const optionalSeconds = (text: string) =>
		text.trim() === '' ? undefined : Math.max(0, numberTyped(text) || 0);
</script>

<section aria-label="Steps">
	<h2>Steps</h2>
	{#if ofTemplate && steps.length}
		<p
			class="mt-1 flex flex-wrap items-center gap-3 rounded-lg bg-saffron-wash px-3 py-2"
			data-testid="template-steps"
		>
			<span class="min-w-0 flex-1 basis-60"
				>○ These are a template’s steps, not yet your kit’s. Hold them against the leaflet and change what
				differs.</span
			>
			<Button color="alternative" onclick={onsame}>They are as in my leaflet</Button>
		</p>
	{/if}
	<ol class="mt-1 grid gap-2">
		{#each steps as step, i (i)}
			<li class="flex flex-wrap items-start gap-2 border-b pb-2">
				<span class="figure w-6 pt-2 text-faint">{i + 1}</span>
				<Select
					class="w-32"
					placeholder=""
					aria-label="What step {i + 1} does"
					value={step.do}
					onchange={(e) => changeStep(i, { do: e.currentTarget.value as Step['do'] })}
				>
					{#each ACTS as act (act)}<option>{act}</option>{/each}
				</Select>
				<Input
					class="min-w-0 flex-1 basis-60"
					aria-label="Words of step {i + 1}"
					value={step.text}
					maxlength={300}
					onchange={(e) => changeStep(i, { text: e.currentTarget.value })}
				/>
				<Input
					class="figure w-20!"
					aria-label="Seconds of step {i + 1}"
					placeholder="s"
					value={step.seconds ?? ''}
					onchange={(e) => {
						const seconds = optionalSeconds(e.currentTarget.value);
						const { seconds: _old, ...rest } = step;
						onchange(
							steps.map((s, k) => (k === i ? (seconds === undefined ? rest : { ...rest, seconds }) : s))
						);
					}}
				/>
				{#if step.do === 'titrate'}
					<Label class="flex items-center gap-2 text-sm"
						>quickly first, %
						<Input
							class="figure w-20!"
							aria-label="Share of step {i + 1} that goes in quickly, %"
							inputmode="numeric"
							value={step.fast === undefined ? '' : Math.round(100 * step.fast)}
							onchange={(e) => changeStep(i, { fast: share(e.currentTarget.value) })}
						/></Label
					>
					<Checkbox
						classes={{ div: 'min-h-11' }}
						checked={step.passing === true}
						onchange={(e) =>
							changeStep(
								i,
								e.currentTarget.checked
									? { passing: true, text: step.text.replace(/ and stays(?=\.|$)/, '') }
									: { passing: undefined }
							)}>its colour passes</Checkbox
					>
				{/if}
				{#if step.do === 'wait'}
					<Input
						class="figure w-28!"
						aria-label="Read within so many seconds after step {i + 1}"
						placeholder="within s"
						value={step.within ?? ''}
						onchange={(e) => changeStep(i, { within: optionalSeconds(e.currentTarget.value) ?? 0 })}
					/>
				{/if}
				<Input
					class="min-w-0 flex-1 basis-60"
					aria-label="Caution of step {i + 1}"
					placeholder="caution, if any"
					value={step.caution ?? ''}
					maxlength={300}
					onchange={(e) => {
						const { caution: _old, ...rest } = step;
						const caution = e.currentTarget.value.trim();
						onchange(steps.map((s, k) => (k === i ? (caution ? { ...rest, caution } : rest) : s)));
					}}
				/>
				<span class="ms-auto flex gap-2">
					<Button
						size="sm"
						color="alternative"
						disabled={i === 0}
						aria-label="Step {i + 1} earlier"
						onclick={() => moveStep(i, -1)}>↑</Button
					>
					<Button
						size="sm"
						color="alternative"
						disabled={i === steps.length - 1}
						aria-label="Step {i + 1} later"
						onclick={() => moveStep(i, 1)}>↓</Button
					>
					<Button
						size="sm"
						color="alternative"
						aria-label="Remove step {i + 1}"
						onclick={() => onchange(steps.filter((_, k) => k !== i))}>✕</Button
					>
				</span>
			</li>
		{/each}
	</ol>
	<Button color="alternative" class="mt-2" onclick={() => onchange([...steps, { do: 'add', text: '' }])}
		>Add a step</Button
	>
</section>
