<script lang="ts">
	import { Refusal } from '$core/refusal/refusal';
	import type { TackRule } from '$core/document/schema';
	import { TACK_SCHOOLS, tackStart } from '$core/schools/tacks';
	import { TACK_ORDER_KINDS } from '$core/schools/tackOrders';
	import { tacksDoNotApply } from '$core/schools/tackPattern';
	import { ruleOf, useTackRule } from '$core/schools/tackRule';
	import { TACK_ORDERS, TACK_PATTERNS, type TackOrder, type TackPattern } from '$core/document/words';
	import type { Pointed } from '$lib/bench-view/grips';
	import Bench from '$lib/desk/Bench.svelte';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import { length } from '$lib/units';
	import Choice from '$lib/ui/Choice.svelte';
	import LengthField from '$lib/ui/LengthField.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button, Checkbox } from 'flowbite-svelte';

	let { data } = $props();
	const desk = getDesk();
	const unit = $derived(data.person?.units ?? 'mm');
	const seam = $derived(desk.selection?.kind === 'joint' ? desk.selection.id : undefined);
	// what the chosen seam holds, or the first one: until it is changed here
	const kept = $derived(JSON.stringify(ruleOf(desk.doc, seam ?? desk.seams[0]?.id ?? '')));
	// replaced whole at each change: a value put over a derived one is not watched inside
	let rule = $derived<TackRule>(JSON.parse(kept));
	const set = (change: Partial<TackRule>) => (rule = { ...rule, ...change });
	const whyNot = $derived(tacksDoNotApply(desk.doc, { ...rule }, seam ? [seam] : undefined));
	const seamName = $derived(desk.doc.joints.find((j) => j.id === seam)?.name);
	const tack = $derived(desk.selection?.kind === 'tack' ? desk.doc.tacks.find((t) => t.id === desk.selection!.id) : undefined);

	let refused = $state('');
	function apply(joints?: string[]) {
		refused = '';
		desk.change(joints ? `tack pattern on ${seamName}` : 'tack pattern on all seams', (d) => {
			try {
				useTackRule(d, { ...rule }, joints);
			} catch (e) {
				if (!(e instanceof Refusal)) throw e;
				refused = e.message;
			}
		});
	}
	let isPointing = $state(false);
	const putting = $derived(
		isPointing && desk.mayEdit
			? {
					on: 'seam' as const,
					name: 'Tack',
					onput: (to: Pointed) => to.on === 'seam' && tackAt(to.joint, to.stationMm),
					onleave: () => (isPointing = false)
				}
			: undefined
	);
	function tackAt(joint: string, stationMm: number) {
		const id = `t-${joint}-${Date.now().toString(36)}`;
		if (
			desk.change('adding a tack', (d) => void d.tacks.push({ id, joint, stationMm, lengthMm: rule.lengthMm, stage: 2, fusionOnly: rule.fusionOnly }))
		)
			desk.selection = { kind: 'tack', id };
	}
	function addTack(joint: string) {
		const on = desk.doc.tacks.filter((t) => t.joint === joint).map((t) => t.stationMm);
		const line = desk.geometry?.seams.find((s) => s.joint === joint);
		const end = line?.lengthMm ?? 0;
		// in the middle of the widest gap
		const marks = [0, ...on.sort((a, b) => a - b), end];
		let at = end / 2;
		let widest = 0;
		for (let i = 1; i < marks.length; i++)
			if (marks[i] - marks[i - 1] > widest) {
				widest = marks[i] - marks[i - 1];
				at = (marks[i] + marks[i - 1]) / 2;
			}
		tackAt(joint, Math.round(at));
	}
	const marks = $derived(
		desk.seams.map((j) => ({
			j,
			tacks: desk.doc.tacks
				.map((t, i) => ({ ...t, number: i + 1 }))
				.filter((t) => t.joint === j.id)
				.sort((a, b) => a.stationMm - b.stationMm)
		}))
	);
	function reorder(by: -1 | 1) {
		if (!tack) return;
		const i = desk.doc.tacks.findIndex((t) => t.id === tack.id);
		if (i + by < 0 || i + by >= desk.doc.tacks.length) return;
		desk.change('order of tacks', (d) => {
			const [t] = d.tacks.splice(i, 1);
			d.tacks.splice(i + by, 0, t);
		});
	}
</script>

<Bench edit="tacks" put={putting} show={{ tacks: true, runs: false, holds: true }}>
	<Panel title="Pattern">
		<div class="grid grid-cols-2 gap-3">
			<div class="col-span-2">
				<Choice
					label="School"
					value={rule.pattern}
					items={TACK_PATTERNS.map((p) => ({ value: p, name: TACK_SCHOOLS[p].name }))}
					onchange={(v) => (rule = { ...tackStart(v as TackPattern), order: rule.order, flush: rule.flush })}
				/>
			</div>
			<div class="col-span-2">
				<Choice
					label="Which first"
					value={rule.order}
					items={TACK_ORDERS.map((p) => ({ value: p, name: TACK_ORDER_KINDS[p].name }))}
					onchange={(v) => set({ order: v as TackOrder })}
				/>
			</div>
			{#each TACK_SCHOOLS[rule.pattern].fields as f (f.field)}
				<LengthField label={f.label} mm={rule[f.field]} {unit} min={f.minMm} max={f.maxMm} onchange={(v) => set({ [f.field]: v })} />
			{/each}
			<LengthField label="Tack length" mm={rule.lengthMm} {unit} min={1} max={60} onchange={(v) => set({ lengthMm: v })} />
			<LengthField label="Clear of ends" mm={rule.endClearMm} {unit} min={0} max={100} onchange={(v) => set({ endClearMm: v })} />
			<LengthField label="Clear of holes and run ends" mm={rule.otherClearMm} {unit} min={0} max={50} onchange={(v) => set({ otherClearMm: v })} />
		</div>
		<Checkbox class="mt-2 text-sm" checked={rule.fusionOnly} onchange={(e) => set({ fusionOnly: (e.currentTarget as HTMLInputElement).checked })}
			>Fusion only (can be broken while adjusting)</Checkbox
		>
		<Checkbox class="mt-1 text-sm" checked={rule.flush} onchange={(e) => set({ flush: (e.currentTarget as HTMLInputElement).checked })}
			>Ground flush before the run passes</Checkbox
		>
		{#if refused}<div class="mt-2"><Notice kind="fault">{refused}</Notice></div>{/if}
		{#if whyNot}<div class="mt-2"><Notice kind="caution">{whyNot}</Notice></div>{/if}
		{#if desk.mayEdit}
			<div class="mt-3 flex flex-wrap gap-2">
				<Button size="sm" disabled={Boolean(whyNot) && !seam} onclick={() => apply()}>Use on all seams</Button>
				<Button size="sm" color="alternative" disabled={!seam || Boolean(whyNot)} onclick={() => apply([seam!])}
					>Use on {seamName ?? 'the chosen seam'}</Button
				>
				{#if seam}<Button size="sm" color="alternative" onclick={() => addTack(seam)}>Add one tack</Button>{/if}
				<Button size="sm" color={isPointing ? 'primary' : 'alternative'} aria-pressed={isPointing} onclick={() => (isPointing = !isPointing)}
					>{isPointing ? 'Stop pointing' : 'Point on the piece'}</Button
				>
			</div>
		{/if}
		<p class="mt-2 text-[13px] text-steel-600">
			{TACK_SCHOOLS[rule.pattern].advice} Figures are common practice, no source: change them.
			<a class="underline" href="/jobs/{desk.jobId}/order/watch">Watch a seam weld, and see how few tacks would hold it</a>.
		</p>
	</Panel>
	{#if tack}
		<Panel title="This tack">
			<div class="grid grid-cols-2 gap-3">
				<LengthField
					label="Station"
					mm={tack.stationMm}
					{unit}
					onchange={(v) => desk.change('moving a tack', (d) => void (d.tacks.find((t) => t.id === tack.id)!.stationMm = v))}
					disabled={!desk.mayEdit}
				/>
				<LengthField
					label="Length"
					mm={tack.lengthMm}
					{unit}
					min={1}
					max={60}
					onchange={(v) => desk.change('length of a tack', (d) => void (d.tacks.find((t) => t.id === tack.id)!.lengthMm = v))}
					disabled={!desk.mayEdit}
				/>
			</div>
			<div class="mt-2 flex flex-wrap gap-x-4 gap-y-1">
				{#each [['fusionOnly', 'Fusion only, breakable'], ['flush', 'Ground flush']] as const as [key, text] (key)}
					<Checkbox
						class="text-sm"
						checked={Boolean(tack[key])}
						disabled={!desk.mayEdit}
						onchange={(e) => {
							const on = (e.currentTarget as HTMLInputElement).checked;
							desk.change(text.toLowerCase(), (d) => {
								const t = d.tacks.find((x) => x.id === tack.id)!;
								if (key === 'fusionOnly') t.fusionOnly = on;
								else if (on) t.flush = true;
								else delete t.flush;
							});
						}}>{text}</Checkbox
					>
				{/each}
			</div>
			{#if desk.mayEdit}
				<div class="mt-2 flex gap-2">
					<Button size="xs" color="alternative" onclick={() => reorder(-1)}>Earlier</Button><Button
						size="xs"
						color="alternative"
						onclick={() => reorder(1)}>Later</Button
					><Button
						size="xs"
						color="alternative"
						onclick={() => desk.change('taking a tack out', (d) => void (d.tacks = d.tacks.filter((t) => t.id !== tack.id)))}>Take out</Button
					>
				</div>
			{/if}
			<p class="mt-2 text-[13px] text-steel-600">On the tape: drag, or arrow keys by 1 mm, Shift by 10, Delete takes it out.</p>
		</Panel>
	{/if}
	<Panel title="Marks by station">
		{#snippet aside()}<span class="tab text-sm">{desk.doc.tacks.length} tacks</span>{/snippet}
		{#each marks as m (m.j.id)}
			<div class="border-t border-steel-200 py-1.5 text-sm">
				<span class="font-medium">{m.j.name}</span>
				{#if m.tacks.length}<div class="tab mt-0.5 flex flex-wrap gap-x-2 leading-6">
						{#each m.tacks as t (t.id)}<button
								type="button"
								class="{t.stage === 1 ? 'font-semibold' : 'text-steel-700'} {desk.selection?.id === t.id ? 'bg-straw-200' : ''}"
								title="Tack {t.number}, stage {t.stage}"
								onclick={() => (desk.selection = { kind: 'tack', id: t.id })}>{length(t.stationMm, unit, 1).replace(/ (mm|in)$/, '')}</button
							>{/each}
					</div>{:else}<p class="text-steel-600">no tacks</p>{/if}
			</div>
		{/each}
		<p class="mt-1 text-[13px] text-steel-600">Bold locates, light closes up. In {unit}, from each seam's datum end.</p>
	</Panel>
</Bench>
