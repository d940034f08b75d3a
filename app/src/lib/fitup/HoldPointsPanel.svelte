<script lang="ts">
	/** Where work waits until somebody has signed. */
	import type { HoldPoint, PlanDocument } from '$core/document/schema';
	import {
		HOLD_POINT_KINDS,
		HOLD_POINT_MOMENT_WORDS,
		SIGNER_WORDS,
		SIGNERS,
		type HoldPointKind,
		type HoldPointMoment,
		type Signer
	} from '$core/document/words';
	import { HOLD_POINT } from '$core/plan/holdPoint';
	import Choice from '$lib/ui/Choice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button, Input } from 'flowbite-svelte';

	interface Props {
		plan: PlanDocument;
		disabled: boolean;
		onchange(label: string, edit: (d: PlanDocument) => void): void;
	}
	let { plan, disabled, onchange }: Props = $props();
	let adding = $state<HoldPointKind>('fit-up');
	const points = $derived(plan.holdPoints ?? []);
	const edit = (id: string, label: string, f: (h: HoldPoint) => void) => onchange(label, (d) => f(d.holdPoints!.find((h) => h.id === id)!));
	const add = () =>
		onchange('a hold point', (d) => {
			const point: HoldPoint = { id: `hold-${Date.now().toString(36)}`, kind: adding, at: HOLD_POINT[adding].moments[0], signs: 'inspector' };
			d.holdPoints = [...(d.holdPoints ?? []), point];
		});
	const remove = (id: string, name: string) =>
		onchange(`taking off the hold “${name}”`, (d) => (d.holdPoints = d.holdPoints!.filter((h) => h.id !== id)));
	/** why it would never come */
	const never = (at: HoldPointMoment) =>
		at === 'closing' && (plan.fitUp.order?.length ?? 0) < 2
			? 'This piece is put together in one step: nothing is shut in, and nobody will be asked.'
			: at === 'swept' && plan.root?.care !== 'purge' && plan.root?.care !== 'both'
				? 'No purge is planned (Hold, Root): nobody will be asked.'
				: undefined;
</script>

<Panel title="Hold points and who decides">
	<p class="mb-2 text-[13px] text-steel-600">
		Work at the bench waits here until it is signed; what comes after is locked. A planner can release one with a reason, which goes into the record.
	</p>
	<ul class="space-y-3">
		{#each points as h (h.id)}
			{@const kind = HOLD_POINT[h.kind]}
			<li class="border-t border-steel-200 pt-2">
				<div class="flex items-baseline justify-between gap-2">
					<span class="text-sm font-semibold">{kind.words}</span>{#if !disabled}<button
							type="button"
							class="text-sm text-primary-700 underline"
							aria-label="Take off: {kind.words}"
							onclick={() => remove(h.id, kind.words)}>Take off</button
						>{/if}
				</div>
				<div class="mt-1 grid grid-cols-2 gap-3">
					<Choice
						label="Signed by"
						value={h.signs}
						items={SIGNERS.map((s) => ({ value: s, name: SIGNER_WORDS[s] }))}
						onchange={(v) => edit(h.id, `who signs “${kind.words}”`, (x) => (x.signs = v as Signer))}
						{disabled}
					/>
					<Choice
						label="When"
						value={h.at}
						items={kind.moments.map((m) => ({ value: m, name: HOLD_POINT_MOMENT_WORDS[m] }))}
						onchange={(v) => edit(h.id, `when “${kind.words}” is signed`, (x) => (x.at = v as HoldPointMoment))}
						{disabled}
					/>
				</div>
				<p class="mt-1 text-[13px] text-steel-600">{kind.look}</p>
				<label class="mt-1 block text-[13px] font-medium text-steel-700" for="wanted-{h.id}"
					>Also wanted
					<Input
						id="wanted-{h.id}"
						size="sm"
						maxlength={200}
						value={h.wanted ?? ''}
						{disabled}
						onchange={(e) => {
							const v = (e.currentTarget as HTMLInputElement).value.trim();
							edit(h.id, `what “${kind.words}” asks`, (x) => {
								if (v) x.wanted = v;
								else delete x.wanted;
							});
						}}
					/></label
				>
				{#if never(h.at)}<p class="mt-1 text-[13px] text-straw-700">{never(h.at)}</p>{/if}
			</li>
		{:else}
			<li class="text-sm text-steel-600">None: work goes from step to step without a signature.</li>
		{/each}
	</ul>
	<div class="mt-3 border-t border-steel-200 pt-2">
		<Choice
			label="Another way on for a half-welded piece is taken over by"
			value={plan.replanBy ?? 'planner'}
			items={[
				{ value: 'planner', name: 'a planner' },
				{ value: 'welder', name: 'the welder at the bench' }
			]}
			onchange={(v) => onchange('who may plan on at the bench', (d) => void (d.replanBy = v as 'planner' | 'welder'))}
			{disabled}
		/>
	</div>
	{#if !disabled}
		<div class="mt-3 flex items-end gap-3">
			<div class="flex-1">
				<Choice
					label="Another hold"
					value={adding}
					items={HOLD_POINT_KINDS.map((k) => ({ value: k, name: HOLD_POINT[k].words }))}
					onchange={(v) => (adding = v as HoldPointKind)}
				/>
			</div>
			<Button size="sm" color="alternative" onclick={add}>Add</Button>
		</div>
	{/if}
</Panel>
