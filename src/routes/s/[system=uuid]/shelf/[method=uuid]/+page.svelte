<script lang="ts">
	import MethodEditor from '$lib/ui/shelf/MethodEditor.svelte';
	import Title from '$lib/ui/shell/Title.svelte';

	let { data } = $props();
</script>

<Title of={[data.method.profile.name, 'Shelf']} />
<h1>{data.method.profile.name}</h1>
<p class="text-sm text-faint">
	Version {data.method.version}. Saving makes the next one; readings keep the version they were made with.
</p>
<MethodEditor
	start={data.method.profile}
	id={data.method.id}
	basedOn={data.method.version}
	shelf="/s/{data.system.id}/shelf"
/>
