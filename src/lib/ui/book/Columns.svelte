<script lang="ts">
	/** What each column of a sheet holds, to be put right where the guess is wrong. */
	import Select from 'flowbite-svelte/Select.svelte';
	import { ASKED, type Meaning, type SheetLayout } from '$core/formats';
	import { UNITS, formatUnit } from '$core/quantities';
	import { PARAMETERS, type ParameterId } from '$core/catalogue';
	import Sideways from '$lib/ui/shell/Sideways.svelte';

	interface Props {
		layout: SheetLayout;
		header: string[] | null;
		rows: string[][];
		onchange: (columns: Meaning[]) => void;
	}
	let { layout, header, rows, onchange }: Props = $props();

	const ROLES: [string, string][] = [
		['skip', 'leave out'],
		['date', 'date'],
		['time', 'time of day'],
		['value', 'values'],
		['parameter', 'which parameter'],
		['sort', 'test, or something else'],
		['unit', 'unit'],
		['water', 'which water'],
		['note', 'note'],
		['bound', '< or >']
	];
	const usual = (id: ParameterId) => PARAMETERS.find((p) => p.id === id)?.unit;
	const keyOf = (m: Meaning) => (m.kind === 'value' && m.parameter ? `value ${m.parameter}` : m.kind);
	function choose(column: number, key: string) {
		const [kind, parameter] = key.split(' ') as [Meaning['kind'], ParameterId?];
		const meaning: Meaning = kind === 'value' ? { kind, parameter: parameter ?? null, unit: null } : { kind };
		// One column has a role of which there is one.
		const single = !['skip', 'value', 'note'].includes(kind);
		onchange(
			layout.columns.map((m, i) =>
				i === column ? meaning : single && m.kind === kind ? { kind: 'skip' } : m
			)
		);
	}
	const setUnit = (column: number, unit: string) =>
		onchange(
			layout.columns.map((m, i) => (i === column && m.kind === 'value' ? { ...m, unit: unit || null } : m))
		);
</script>

<Sideways name="The sheet’s first rows">
	<table class="min-w-full text-sm" data-testid="columns">
		<caption class="sr-only">The first rows, and what each column holds</caption>
		<thead>
			<tr>
				{#each layout.columns as meaning, c (c)}
					<th scope="col" class="min-w-36 border-b p-1 text-start align-top font-normal">
						<span class="block max-w-40 truncate font-medium">{header?.[c] || `column ${c + 1}`}</span>
						<Select
							class="mt-1"
							placeholder=""
							aria-label="What {header?.[c] || `column ${c + 1}`} holds"
							value={keyOf(meaning)}
							onchange={(e) => choose(c, e.currentTarget.value)}
						>
							{#each ROLES as [key, words] (key)}<option value={key}>{words}</option>{/each}
							<optgroup label="values of">
								{#each PARAMETERS as p (p.id)}<option value="value {p.id}">{p.title}</option>{/each}
							</optgroup>
						</Select>
						{#if meaning.kind === 'value' && meaning.parameter}
							{@const assumed = layout.units[meaning.parameter]}
							<Select
								class="mt-1"
								placeholder=""
								aria-label="Unit of {header?.[c] || `column ${c + 1}`}"
								value={meaning.unit ?? ''}
								onchange={(e) => setUnit(c, e.currentTarget.value)}
							>
								{#if meaning.unit === ASKED}<option value={ASKED}>▲ which unit?</option>{/if}
								<option value=""
									>{assumed
										? `${formatUnit(assumed) || assumed}${assumed === usual(meaning.parameter) ? '' : ', by size'}`
										: 'as usual'}</option
								>
								{#each UNITS[meaning.parameter] as u (u.name)}<option value={u.name}
										>{formatUnit(u.name) || u.name}</option
									>{/each}
							</Select>
						{/if}
					</th>
				{/each}
			</tr>
		</thead>
		<tbody>
			{#each rows as row, r (r)}
				<tr>
					{#each layout.columns as meaning, c (c)}
						<td class="figure border-b px-2 py-1 {meaning.kind === 'skip' ? 'text-faint' : ''}"
							><span class="block max-w-48 truncate">{row[c] ?? ''}</span></td
						>
					{/each}
				</tr>
			{/each}
		</tbody>
	</table>
</Sideways>
