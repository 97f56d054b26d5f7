<script lang="ts">
	import { v7 as uuid } from 'uuid';
	import MethodEditor from '$lib/ui/shelf/MethodEditor.svelte';
	import { copyOf, freshMethod } from '$lib/ui/shelf/fresh-method';

	let { data } = $props();
	const id = uuid();
	// svelte-ignore state_referenced_locally
	const start = data.from ? copyOf(data.from) : freshMethod('syringe');
</script>

<svelte:head><title>New method · Tevrik</title></svelte:head>
<h1>{data.from ? `A copy of ${data.from.name}` : 'A method from your leaflet'}</h1>
<MethodEditor {start} {id} basedOn={0} shelf="/s/{data.system.id}/shelf" />
