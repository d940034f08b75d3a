<script lang="ts">
	import { PIECE_WORDS } from '$core/document/words';
	import { goto, invalidateAll } from '$app/navigation';
	import { call, type Refusal } from '$lib/call';
	import { quantity } from '$lib/units';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button, Label, Radio, Textarea } from 'flowbite-svelte';

	let { data } = $props();
	const unit = $derived(data.person?.units ?? 'mm');
	const maySign = $derived(data.person?.roles.some((r) => r === 'inspector' || r === 'admin') ?? false);
	let accepted = $state('yes');
	let statement = $state('Seen and measured; meets the drawing as recorded.');
	let refusal = $state<Refusal | undefined>();
	async function sign() {
		const r = await call('POST', `/api/pieces/${data.piece!.id}/sign`, { accepted: accepted === 'yes', statement: statement.trim() });
		refusal = r.ok ? undefined : r.refusal;
		if (r.ok) await invalidateAll();
	}
</script>

<main id="main" class="flex-1 overflow-y-auto p-2 sm:p-5">
	{#if !data.piece}<Panel title="Hand-over"><p>This job has no pieces.</p></Panel>{:else}
		<div class="grid max-w-[1120px] gap-5 lg:grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)]">
			<Panel title="Record of {data.piece.serial}">
				{#snippet aside()}<select
						class="tab rounded-sm py-1 text-sm"
						aria-label="Piece"
						value={data.piece!.id}
						onchange={(e) => goto(`?piece=${e.currentTarget.value}`)}
						>{#each data.pieces as p (p.id)}<option value={p.id}>{p.serial} · {PIECE_WORDS[p.state]}</option>{/each}</select
					>{/snippet}
				{#if !data.results.length}<p class="text-steel-600">Not started at the bench yet.</p>{/if}
				<table class="w-full text-sm">
					<tbody>
						{#each data.results as r (r.id)}
							<tr class="border-t border-steel-200 first:border-0"
								><td class="py-1.5">{r.name}</td><td class="tab text-right"
									>{r.value === undefined ? 'not measured' : quantity(r.value, r.unit, unit)}</td
								><td class="tab text-right text-steel-600"
									>{r.tolerance.lower === undefined ? 'at most ' : '± '}{quantity(r.tolerance.upper, r.unit, unit)}</td
								><td class="w-24 text-right {r.ok === undefined ? 'text-steel-600' : r.ok ? 'text-sound-700' : 'text-plum-700'}"
									>{r.ok === undefined ? '–' : r.ok ? '✓ inside' : '✕ outside'}</td
								></tr
							>
						{/each}
					</tbody>
				</table>
				{#if data.problems.length}<h3 class="mt-4 text-[15px]">Problems logged at the bench</h3>
					<ul class="list-disc pl-5 text-sm">
						{#each data.problems as p, i (i)}<li>{p.note} ({p.person}, {new Date(p.happenedAt).toLocaleString()})</li>{/each}
					</ul>{/if}
				{#if data.revision}<p class="mt-4">
						<a class="text-primary-700 underline" href="/api/pieces/{data.piece.id}/record.pdf" target="_blank" rel="noopener"
							>One-page record (PDF)</a
						>
					</p>{/if}
			</Panel>
			<Panel title="Signature">
				{#if refusal}<div class="mb-3"><Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice></div>{/if}
				{#if data.signature}
					<Notice kind="done" title={data.signature.accepted ? 'Accepted' : 'Rejected'}
						>“{data.signature.statement}” Signed by {data.signature.person}, {new Date(data.signature.signedAt).toLocaleString()}, against revision {data
							.signature.revision}.</Notice
					>
				{:else if data.piece.state !== 'welded'}
					<p class="text-sm text-steel-600">
						The piece is “{PIECE_WORDS[data.piece.state]}”. It can be signed when every step at the bench is behind it.
					</p>
				{:else if !maySign}
					<p class="text-sm text-steel-600">An inspector signs here.</p>
				{:else}
					<div class="space-y-3">
						<fieldset class="flex gap-6">
							<legend class="sr-only">Verdict</legend><Radio name="verdict" value="yes" bind:group={accepted}>Accepted</Radio><Radio
								name="verdict"
								value="no"
								bind:group={accepted}>Rejected</Radio
							>
						</fieldset>
						<div>
							<Label for="statement" class="mb-1 text-steel-700">Statement</Label><Textarea
								id="statement"
								rows={3}
								class="w-full"
								maxlength={600}
								bind:value={statement}
							/>
						</div>
						<p class="text-[13px] text-steel-600">Signing as {data.person?.name}. It closes the piece: no more readings, no more steps.</p>
						<Button onclick={sign} disabled={!statement.trim()}>Sign</Button>
					</div>
				{/if}
				<p class="mt-4 text-[13px] text-steel-600">
					Leak tests with water, vented and supported, never compressed air on a thin tank. Pressure vessels, boilers, food and drinking-water duty:
					code, licensed engineer and inspector decide, not this tool.
				</p>
			</Panel>
		</div>
	{/if}
</main>
