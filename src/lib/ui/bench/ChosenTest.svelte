<script lang="ts">
	/** One test of a session that is planned: when it begins, why, by which method, and its place in the order. */
	import Select from 'flowbite-svelte/Select.svelte';
	import Checkbox from 'flowbite-svelte/Checkbox.svelte';
	import type { Method } from '$core/instruments';
	import { hasOwnChart } from '$core/methods';
	import { STEPS_OF_TEMPLATE, shortName, type Choice } from './choices';

	interface Props {
		/** The method's id. */
		id: string;
		profile: Method;
		title: string;
		/** On the tank's clock. */
		starts: string | undefined;
		due: { now: boolean; why: string } | undefined;
		/** Methods of the same parameter, this one among them. */
		choices: Choice[];
		first: boolean;
		last: boolean;
		onleave: () => void;
		onreplace: (by: string) => void;
		onshift: (by: -1 | 1) => void;
	}
	let { id, profile, title, starts, due, choices, first, last, onleave, onreplace, onshift }: Props =
		$props();
</script>

<li class="flex flex-wrap items-center gap-1 py-1" data-test={profile.id}>
	<Checkbox
		classes={{ div: 'min-w-0 flex-1 basis-28' }}
		checked
		aria-label="{title}, in this evening"
		onchange={onleave}
	>
		<span class="min-w-0">
			<span class="font-medium">{title}</span>
			<span class="block truncate text-sm text-faint" title={due?.why}>
				{#if starts !== undefined}<span class="figure">{starts}</span> ·{/if}
				{due ? due.why : 'not tested here yet'}{profile.stepsBy ? ` · ○ ${STEPS_OF_TEMPLATE}` : ''}
			</span>
		</span>
	</Checkbox>
	{#if choices.length > 1}
		<Select
			class="w-34 shrink-0"
			classes={{
				select: 'bg-transparent text-sm text-faint dark:bg-transparent dark:text-faint'
			}}
			placeholder=""
			aria-label="Method for {title}"
			value={id}
			onchange={(e) => onreplace(e.currentTarget.value)}
		>
			{#each choices as m (m.id)}<option value={m.id}
					>{shortName(m.profile)}{hasOwnChart(m.profile) ? '' : ' ○ no chart yet'}</option
				>{/each}
		</Select>
	{/if}
	<span class="flex">
		<button class="nudge" disabled={first} aria-label="{title} earlier" onclick={() => onshift(-1)}>↑</button>
		<button class="nudge" disabled={last} aria-label="{title} later" onclick={() => onshift(1)}>↓</button>
	</span>
</li>

<style>
	.nudge {
		min-width: 2.25rem;
		min-height: 2.75rem;
		border-radius: 0.5rem;
		color: var(--faint-ink);
	}
	.nudge:hover:not(:disabled) {
		background: var(--plum-wash);
		color: var(--ink);
	}
	.nudge:disabled {
		opacity: 0.35;
	}
	@media (max-width: 60rem) {
		.nudge {
			min-width: 2.75rem;
		}
	}
</style>
