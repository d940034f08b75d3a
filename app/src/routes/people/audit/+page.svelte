<script lang="ts">
	import Panel from '$lib/ui/Panel.svelte';

	let { data } = $props();
	const time = (d: Date | string) => new Date(d).toLocaleString();
</script>

<main id="main" class="mx-auto max-w-[1000px] space-y-5 px-6 py-6">
	<div class="flex items-baseline justify-between">
		<h1 class="text-2xl">What was done, and who tried</h1>
		<a class="text-primary-700 underline" href="/people">People</a>
	</div>
	<Panel title="Newest first; nothing in it can be changed">
		{#if !data.rows.length}<p class="text-steel-600">Nothing yet.</p>{/if}
		<table class="w-full text-sm">
			<thead class="sr-only"><tr><th>When</th><th>Who</th><th>What</th><th>From</th></tr></thead>
			<tbody>
				{#each data.rows as r (r.seq)}
					<tr class="border-t border-steel-200 align-top first:border-0">
						<td class="tab w-44 py-1.5 pr-3 text-steel-600">{time(r.at)}</td>
						<td class="w-40 pr-3 font-medium">{r.person ?? '–'}</td>
						<td class="pr-3">{r.words}{r.about ? `: ${r.about}` : ''}</td>
						<td class="tab text-right text-steel-600">{r.address ?? ''}</td>
					</tr>
				{/each}
			</tbody>
		</table>
		{#if data.older}<p class="mt-3"><a class="text-primary-700 underline" href="?before={data.older}">Older</a></p>{/if}
	</Panel>
</main>
