<script lang="ts">
	import { instrumentWords } from '$core/registers/instruments';
	import { EVENT_WORDS, MOMENT_WORDS, PIECE_WORDS } from '$core/document/words';
	import Photographs from '$lib/ui/Photographs.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { quantity } from '$lib/units';

	let { data } = $props();
	const unit = $derived(data.person?.units ?? 'mm');
	const time = (d: Date | string) => new Date(d).toLocaleString();
</script>

<main id="main" class="relative flex-1 overflow-y-auto p-2 sm:p-5">
	<div class="max-w-[1120px] space-y-5">
		{#if !data.history}
			<Panel title="History"><p class="text-steel-600">This job was made here: its record is under Measure and Hand-over.</p></Panel>
		{:else}
			{@const { record } = data.history}
			<Panel title="History of job {record.number}, {record.job.name}">
				<p class="text-sm text-steel-700">
					Read from a record written {time(record.writtenAt)}, brought in by {data.history.person}, {time(data.history.importedAt)}. It is looked at
					here and never worked on. {record.revisions.length} revision{record.revisions.length === 1 ? '' : 's'}, {record.pieces.length} piece{record
						.pieces.length === 1
						? ''
						: 's'}.
				</p>
			</Panel>
			{#each record.pieces as p (p.serial)}
				<Panel title="{p.serial} · {PIECE_WORDS[p.state]}{p.revision ? `, revision ${p.revision}` : ''}">
					{#if p.signature}<p class="mb-3 font-medium">
							{p.signature.accepted ? 'Accepted' : 'Rejected'} by {p.signature.person}, {time(p.signature.signedAt)}: “{p.signature.statement}”
							{#if p.signature.concession}Concession: {p.signature.concession.replace(/\.$/, '')}.{/if}
						</p>{/if}
					{#if !p.events.length}<p class="text-sm text-steel-600">Not begun.</p>{/if}
					<table class="w-full text-sm">
						<tbody>
							{#each p.readings as r, i (i)}
								<tr class="border-t border-steel-200 align-top">
									<td class="py-1 pr-3 font-medium">{r.name ?? r.feature}, {MOMENT_WORDS[r.moment]}</td>
									<td class="tab pr-3 {r.withdrawnAt ? 'line-through' : ''}">{quantity(r.value, r.unit, unit)}</td>
									<td class="pr-3 text-steel-600"
										>{r.arithmetic}; {instrumentWords(r.instrument, r.instrumentDueOn, r.measuredAt)}{r.withdrawnWhy
											? `. Withdrawn: ${r.withdrawnWhy}`
											: ''}</td
									>
									<td class="text-right text-steel-600">{r.person}, {time(r.measuredAt)}</td>
								</tr>
							{/each}
							{#each p.events as e (e.clientId)}
								<tr class="border-t border-steel-200 align-top">
									<td class="py-1 pr-3">{e.title ?? e.step ?? ''}</td>
									<td class="pr-3">{EVENT_WORDS[e.kind]}</td>
									<td class="pr-3 text-steel-600">{e.note ?? ''}</td>
									<td class="text-right text-steel-600">{e.person}{e.sentBy ? ` (sent by ${e.sentBy})` : ''}, {time(e.happenedAt)}</td>
								</tr>
							{/each}
						</tbody>
					</table>
					{#if p.photographs.length}<div class="mt-3">
							<Photographs
								photographs={p.photographs.map((x) => ({ ...x, title: x.title ?? '', href: `/api/jobs/${data.job.id}/history/${x.clientId}` }))}
							/>
						</div>{/if}
				</Panel>
			{/each}
		{/if}
	</div>
</main>
