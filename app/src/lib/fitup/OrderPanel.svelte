<script lang="ts">
	/** Which parts come together when, what each step closes off, and what takes up the error. */
	import { accessFindings, orderFindings } from '$core/access/access';
	import { stepsOf } from '$core/sequence/assembly';
	import { assemblyMesh } from '$core/mesh/assemblyMesh';
	import type { AssemblyStep, PlanDocument } from '$core/document/schema';
	import { PUT_RIGHT, putRightIn } from './putRightIn';
	import Choice from '$lib/ui/Choice.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button, Checkbox, Input } from 'flowbite-svelte';

	interface Props {
		plan: PlanDocument;
		disabled: boolean;
		onchange: (label: string, edit: (d: PlanDocument) => void | string[]) => void;
	}
	let { plan, disabled, onchange }: Props = $props();
	const steps = $derived(stepsOf(plan));
	let looked = $state.raw<{ plan: PlanDocument; access: ReturnType<typeof accessFindings>; rules: string[]; fault: string } | undefined>();
	const current = $derived(looked?.plan === plan ? looked : undefined);
	let looking = $state(false);
	/** rays against every sheet: a second on a large piece, so it is asked for */
	function look() {
		looking = true;
		setTimeout(() => {
			try {
				const found = accessFindings(plan, assemblyMesh(plan));
				looked = { plan, access: found, rules: orderFindings(plan).filter((words) => !found.some((f) => f.words === words)), fault: '' };
			} catch (e) {
				looked = { plan, access: [], rules: [], fault: (e as Error).message };
			}
			looking = false;
		}, 30);
	}
	let mending = $state(false);
	function mend() {
		mending = true;
		setTimeout(() => {
			onchange(PUT_RIGHT, putRightIn);
			mending = false;
		}, 30);
	}
	const write = (label: string, next: AssemblyStep[]) => onchange(label, (d) => void (d.fitUp.order = next.filter((s) => s.parts.length)));
	const copy = () => steps.map((s) => ({ ...s, parts: [...s.parts] }));
	function move(part: string, to: number) {
		const next = copy();
		for (const s of next) s.parts = s.parts.filter((p) => p !== part);
		if (to >= next.length) {
			let n = next.length + 1;
			while (next.some((s) => s.id === `step-${n}`)) n++;
			next.push({ id: `step-${n}`, name: plan.parts.find((p) => p.id === part)!.name, parts: [] });
		}
		next[to].parts.push(part);
		write('assembly order', next);
	}
	const rename = (i: number, name: string) => {
		const next = copy();
		if (!name.trim() || next[i].name === name) return;
		next[i].name = name.trim();
		write('name of a step', next);
	};
	const separable = $derived(plan.fitUp.separable ?? []);
</script>

<Panel title="Assembly order">
	<ol class="space-y-2">
		{#each steps as s, i (s.id)}
			<li class="border-t border-steel-200 pt-1.5 first:border-0">
				<div class="flex items-center gap-2">
					<span class="tab w-5 text-steel-600">{i + 1}</span>
					<label class="sr-only" for="step-{s.id}">Name of step {i + 1}</label>
					<Input
						id="step-{s.id}"
						size="sm"
						class="flex-1"
						value={s.name}
						{disabled}
						maxlength={80}
						onchange={(e) => rename(i, (e.currentTarget as HTMLInputElement).value)}
					/>
				</div>
				<ul class="mt-1 space-y-1 pl-7 text-sm">
					{#each s.parts as p (p)}
						{@const name = plan.parts.find((x) => x.id === p)?.name ?? p}
						<li class="flex items-center gap-2">
							<span class="flex-1">{name}</span>
							{#if !disabled}
								{#if i > 0}<button
										type="button"
										class="text-primary-700 underline"
										aria-label="{name} one step earlier"
										onclick={() => move(p, i - 1)}>earlier</button
									>{/if}
								{#if s.parts.length > 1 || i < steps.length - 1}<button
										type="button"
										class="text-primary-700 underline"
										aria-label="{name} one step later"
										onclick={() => move(p, i + 1)}>later</button
									>{/if}
							{/if}
						</li>
					{/each}
				</ul>
			</li>
		{/each}
	</ol>
	<div class="mt-3"><Button size="sm" onclick={look} disabled={looking}>{looking ? 'Looking…' : 'What does each step close off?'}</Button></div>
	{#if current}
		<div class="mt-2 space-y-1.5" aria-live="polite">
			{#if current.fault}<Notice kind="fault">{current.fault}</Notice>{/if}
			{#each current.rules as r (r)}<Notice kind="caution">{r}</Notice>{/each}
			{#each current.access as f, i (i)}<Notice
					kind={f.kind === 'refused' ? 'fault' : f.kind === 'caution' || f.kind === 'vent' ? 'caution' : 'note'}
					title="Step {f.step + 1}">{f.words}</Notice
				>{/each}
			{#if !disabled && current.access.some((f) => f.kind === 'refused')}<Button size="sm" disabled={mending} onclick={mend}
					>{mending ? 'Putting it right…' : 'Put it right'}</Button
				>{/if}
			{#if !current.fault && !current.access.length && !current.rules.length}<Notice kind="done"
					>Every seam can be reached when its turn comes, and nothing is shut in.</Notice
				>{/if}
		</div>
	{/if}
	<div class="mt-3">
		<Choice
			label="The joint that takes up the error of the rest"
			value={plan.fitUp.adjustingJoint ?? ''}
			items={[{ value: '', name: 'none' }, ...plan.joints.filter((j) => !j.stock).map((j) => ({ value: j.id, name: j.name }))]}
			onchange={(v) =>
				onchange('the adjusting joint', (d) => {
					if (v) d.fitUp.adjustingJoint = v;
					else delete d.fitUp.adjustingJoint;
				})}
			{disabled}
		/>
	</div>
	{#if plan.parts.length > 1}
		<fieldset class="mt-3">
			<legend class="text-sm text-steel-700">Must stay separable until its neighbours are located from it</legend>
			<div class="mt-1 grid grid-cols-2 gap-1">
				{#each plan.parts as p (p.id)}
					<Checkbox
						class="text-sm"
						checked={separable.includes(p.id)}
						{disabled}
						onchange={(e) => {
							const on = (e.currentTarget as HTMLInputElement).checked;
							onchange(`${p.name} separable`, (d) => void (d.fitUp.separable = on ? [...separable, p.id] : separable.filter((x) => x !== p.id)));
						}}>{p.name}</Checkbox
					>
				{/each}
			</div>
		</fieldset>
	{/if}
</Panel>
