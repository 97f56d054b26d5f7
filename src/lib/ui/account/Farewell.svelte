<script lang="ts">
	/** Taking everything along, and going. */
	import { enhance } from '$app/forms';
	import Button from 'flowbite-svelte/Button.svelte';
	import type { Problem } from '$core/base';
	import { forgetDevice } from '$lib/ui/forget';
	import Field from '$lib/ui/forms/Field.svelte';
	import { problemAt } from '$lib/ui/forms/problem-at';

	let { wrong }: { wrong: { problems?: Problem[] | undefined } | undefined } = $props();
</script>

<section class="lg:col-span-2">
	<h2>Your data</h2>
	<p class="text-sm text-faint">
		Everything that is kept of you and your tanks in one file: account, methods, and a book of each tank.
	</p>
	<Button href="/account/export" download="tevrik-account.json" color="alternative" class="mt-2"
		>Export all of it</Button
	>
	<details class="mt-3">
		<summary class="flex min-h-11 cursor-pointer items-center text-brick">Delete the account</summary>
		<p class="text-sm">
			Your account and all tanks that nobody else uses are deleted for good. In tanks of others your readings
			stay, by “somebody who left”. This cannot be undone: export first.
		</p>
		<form
			method="POST"
			action="?/delete"
			use:enhance={() =>
				async ({ result, update }) => {
					if (result.type === 'redirect') await forgetDevice();
					await update();
				}}
			class="flex flex-wrap items-start gap-3"
		>
			<Field
				name="farewell"
				label="Your password"
				type="password"
				autocomplete="current-password"
				required
				problem={problemAt(wrong, '/farewell')}
			/>
			<Button type="submit" color="alternative" class="mt-8 text-brick">Delete it for good</Button>
		</form>
	</details>
</section>
