<script lang="ts">
	/** What tries have shown of a hand and an eye, with its errors, beside what real pairs say; and the button that lets it count. */
	import { invalidateAll } from '$app/navigation';
	import Button from 'flowbite-svelte/Button.svelte';
	import type { Technique } from '$core/instruments';
	import { countableOf, hand, type Countable, type TechniqueResult } from '$core/practice';
	import type { Problem } from '$core/base';
	import { formatUnit } from '$core/quantities';
	import { titleOf } from '$core/catalogue';
	import type { Habits } from '$lib/api/habits';
	import type { KitChecks } from '$lib/api/kit-checks';
	import { call } from '$lib/client/api';
	import { saveHabits } from '$lib/client/commands';
	import Trouble from '$lib/ui/forms/Trouble.svelte';
	import { figures, unitFor } from '$lib/ui/habits';
	import { changeFor } from '$lib/ui/mine';
	import { saveFile } from '$lib/ui/save-file';
	import { plural } from '$lib/ui/words/plural';
	import { endInWords, scatterInWords } from '$lib/ui/words/practice';
	import { KITS, chartOf } from './kits';
	import { asFile, fromFile, noTries, replaceTries, triesOf, type Tries } from './tries';

	interface Props {
		system: string;
		person: string;
		habits: Habits;
		mayWrite: boolean;
	}
	let { system, person, habits, mayWrite }: Props = $props();
	let tries: Tries = $derived(triesOf(person));
	const known: TechniqueResult = $derived.by(() => {
		const outcome = hand(tries);
		return outcome.ok ? outcome.value : { endPoints: [], plunger: null, eyes: [] };
	});
	const anything = $derived(known.endPoints.length + known.eyes.length > 0 || known.plunger !== null);

	/** What one drop of a practice kit is worth, so that drops mean something. */
	function worth(parameter: string, instrument: string, drops: number): string {
		const kit = Object.values(KITS).find((k) => k.parameter === parameter && k.reads === instrument);
		const typical = { alkalinity: 8, calcium: 420, potassium: 400 }[parameter];
		if (!kit || !typical) return '';
		const value = Math.abs(drops) * kit.dropMl * chartOf(kit, typical).perMl;
		return `${figures(changeFor(parameter, value, typical), 2)} ${formatUnit(unitFor(parameter))}`;
	}

	/** What can be let count, by the key and the name it has in the habits and on the page. */
	interface Offer extends Countable {
		key: string;
		name: string;
	}
	const offers: Offer[] = $derived(
		countableOf(known).map((c) => ({
			...c,
			key: `${c.instrument} ${c.parameter}`,
			name: `${titleOf(c.parameter)}, ${c.instrument}`
		}))
	);
	/** Of two lamps one counts: the one it was let count by. */
	const counts = ({ key, light }: Offer): Technique | undefined => {
		const used = habits.hands?.[key];
		return used && (used.light ?? light) === light ? used : undefined;
	};
	let problems: Problem[] = $state([]);
	let said = $state('');

	async function save(hands: NonNullable<Habits['hands']>, words: string) {
		problems = [];
		const done = await saveHabits({ ...habits, hands });
		if (!done.ok) return void (problems = done.problems);
		said = words;
		await invalidateAll();
	}
	const use = (offer: Offer) =>
		save(
			{ ...habits.hands, [offer.key]: offer.hand },
			`Readings of ${offer.name} go by your hand from now on.`
		);
	function leave(offer: Pick<Offer, 'key'>) {
		const { [offer.key]: _, ...rest } = habits.hands ?? {};
		return save(rest, 'Readings go by what the kit says again.');
	}

	/** What pairs of the same water in real sessions say, where there are any and the network is there. */
	let real: Record<string, string> = $state({});
	$effect(() => {
		for (const parameter of new Set(known.endPoints.map((e) => e.parameter)))
			void call<KitChecks>('GET', `/api/v1/systems/${system}/proof?of=${parameter}`).then((answer) => {
				if (!answer.ok) return;
				const best = answer.value.kits
					.flatMap(({ name, card }) => (card.scatter ? [{ name, ...card.scatter }] : []))
					.sort((a, b) => b.pairs - a.pairs)[0];
				real[parameter] = best
					? `${best.name}: ${plural(best.pairs, 'pair')} of the same water scatter ${figures(best.ratio, 2)} times what the kit says. From ten pairs on they count, and practice does not.`
					: 'No pairs of the same water yet: the same test twice in one evening says more than any screen.';
			});
	});

	function download() {
		const address = URL.createObjectURL(new Blob([asFile(tries)], { type: 'application/json' }));
		saveFile('tevrik-practice.json', address);
		URL.revokeObjectURL(address);
	}
	async function open(event: Event) {
		const field = event.currentTarget as HTMLInputElement;
		const file = field.files?.[0];
		if (!file) return;
		problems = [];
		const found = fromFile(await file.text());
		field.value = '';
		const checked = found && (await call('POST', '/api/v1/calc/hand', found));
		if (!found || !checked?.ok)
			return void (problems =
				checked && !checked.ok ? checked.problems : [{ path: '', message: 'This is no file of practice.' }]);
		replaceTries(person, { ...noTries(), ...(found as Partial<Tries>) });
		tries = triesOf(person);
		said = 'The tries of the file are here now.';
	}
	let forgotten: Tries | undefined = $state();
	function forget() {
		forgotten = tries;
		replaceTries(person, undefined);
		tries = noTries();
	}
	function undo() {
		replaceTries(person, forgotten);
		tries = triesOf(person);
		forgotten = undefined;
	}
</script>

<section class="mt-8">
	<h2 class="mb-1 text-xl">What your hand is worth</h2>
	{#if !anything}
		<p class="max-w-prose text-faint">
			After two tries it begins to show: where your end points lie, how far one try is from the next, how fine
			a plunger you read, and the smallest difference of shade you tell under each lamp. From ten tries on it
			can count in your readings.
		</p>
	{:else}
		<p class="mb-3 max-w-prose text-sm text-faint">
			From tries on this device. A screen is kinder than a bench: where the same water was tested twice for
			real, that counts.
		</p>
		<ul class="grid gap-3 lg:grid-cols-2" data-testid="hand">
			{#each offers as offer, i (`${offer.key} ${offer.light}`)}
				{@const end = known.endPoints[i]}
				{@const eye = known.eyes[i - known.endPoints.length]}
				<li class="rounded-xl border border-rule bg-sheet p-4">
					<h3 class="font-semibold">
						{offer.name} <span class="font-normal text-faint">{offer.light}</span>
					</h3>
					{#if end}
						<p>
							{endInWords(end, worth(end.parameter, end.instrument, end.bias))};
							{scatterInWords(end, 'drops')}.
						</p>
						{#if real[end.parameter]}<p class="mt-1 text-sm text-faint">{real[end.parameter]}</p>{/if}
					{:else if eye}
						<p>
							The smallest difference you tell, three times in four: {figures(eye.smallest, 2)} of a patch ({figures(
								eye.interval[0],
								2
							)} to {figures(eye.interval[1], 2)}), by {eye.looks} looks.
						</p>
					{/if}
					{#if mayWrite}
						{@const used = counts(offer)}
						<div class="mt-2 flex flex-wrap items-center gap-2">
							{#if offer.enough}
								<Button size="sm" class="min-h-11" onclick={() => use(offer)}>
									{used ? 'Use these tries in place of before' : 'Let it count in my readings'}
								</Button>
							{:else}
								<span class="text-sm text-faint">◌ too few to count in readings yet</span>
							{/if}
							{#if used}
								<span class="text-sm text-moss">● counts, by {used.tries} tries</span>
								<Button size="sm" color="alternative" class="min-h-11" onclick={() => leave(offer)}
									>No more</Button
								>
							{/if}
						</div>
					{/if}
				</li>
			{/each}
		</ul>
		{#if known.plunger}
			<p class="mt-3">
				Reading a plunger: {figures(Math.abs(known.plunger.bias), 2)} of a line {known.plunger.bias >= 0
					? 'high'
					: 'low'};
				{scatterInWords(known.plunger, 'lines')}, by {known.plunger.tries} readings.
			</p>
		{/if}
	{/if}
	<p aria-live="polite" class="min-h-6 text-moss">{said ? `● ${said}` : ''}</p>
	<Trouble says={problems[0]?.message} />
	<div class="mt-2 flex flex-wrap items-center gap-2">
		{#if anything}
			<Button color="alternative" class="min-h-11" onclick={download}>Save the tries as a file</Button>
			<Button color="alternative" class="min-h-11" onclick={forget}>Forget them</Button>
		{/if}
		{#if forgotten}
			<Button color="alternative" class="min-h-11" onclick={undo}>Undo</Button>
		{/if}
		<label class="link inline-flex min-h-11 cursor-pointer items-center">
			Open a file of tries
			<input type="file" accept=".json,application/json" class="sr-only" onchange={open} />
		</label>
	</div>
</section>
