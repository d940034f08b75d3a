<script lang="ts">
	/** The second saver is told, sees both, loses nothing. */
	import { Button } from 'flowbite-svelte';
	import type { PlanDocument } from '$core/document/schema';
	import type { PlanDesk } from './plan-desk.svelte';
	let { desk }: { desk: PlanDesk } = $props();

	const count = (p: PlanDocument) => `${p.parts.length} parts, ${p.tacks.length} tacks, ${p.runs.length} runs, ${p.holdDowns.length} hold-downs`;
	const PARTS: [keyof PlanDocument, string][] = [
		['parts', 'parts'],
		['joints', 'seams'],
		['holdDowns', 'hold-downs'],
		['settings', 'settings'],
		['tacks', 'tacks'],
		['runs', 'weld order'],
		['features', 'features'],
		['fitUp', 'fit-up']
	];
	const differing = $derived(
		desk.theirs ? PARTS.filter(([k]) => JSON.stringify(desk.doc[k]) !== JSON.stringify(desk.theirs!.document[k])).map(([, w]) => w) : []
	);
</script>

{#if desk.theirs}
	<div class="rounded-sm border-l-4 border-plum-600 bg-plum-100 px-3 py-2 text-sm" role="alert">
		<strong>Somebody else saved this plan first.</strong> Nothing of yours is lost. The two differ in {differing.join(', ') ||
			'nothing that matters'}.
		<table class="mt-2">
			<tbody>
				<tr><th class="pr-4 text-left font-medium">Yours, on this screen</th><td>{count(desk.doc)}</td></tr>
				<tr><th class="pr-4 text-left font-medium">Stored, revision {desk.theirs.revision}</th><td>{count(desk.theirs.document)}</td></tr>
			</tbody>
		</table>
		<div class="mt-2 flex gap-2">
			<Button size="xs" onclick={() => desk.resolve('mine')}>Keep mine over theirs</Button>
			<Button size="xs" color="alternative" onclick={() => desk.resolve('theirs')}>Take theirs</Button>
			<span class="self-center">Whichever you choose, Undo brings the other back.</span>
		</div>
	</div>
{/if}
