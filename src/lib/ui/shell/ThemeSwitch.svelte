<script lang="ts">
	import { page } from '$app/state';
	import { HEAD } from './head';

	let night = $state(page.data['theme'] === 'night');

	async function turn() {
		night = !night;
		document.documentElement.classList.toggle('dark', night);
		const { scheme, paper } = HEAD[night ? 'night' : 'paper'];
		document.querySelector('meta[name=color-scheme]')?.setAttribute('content', scheme);
		document.querySelector('meta[name=theme-color]')?.setAttribute('content', paper);
		// Without the network the page is in the theme asked for all the same.
		await fetch('/theme', { method: 'POST', body: night ? 'night' : 'paper' }).catch(() => undefined);
	}
</script>

<button
	type="button"
	class="flex min-h-11 min-w-11 items-center justify-center gap-2 rounded-lg px-3 text-sm text-faint hover:bg-plum-wash hover:text-ink"
	aria-pressed={night}
	onclick={turn}
>
	<span aria-hidden="true">{night ? '☾' : '☼'}</span>
	<span class="max-sm:sr-only"
		>{night ? 'Night' : 'Paper'}<span class="sr-only">&nbsp;theme; press for the other</span></span
	>
</button>
