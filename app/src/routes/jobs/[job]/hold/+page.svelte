<script lang="ts">
	import { holdKind, holdWords } from '$core/holds';
	import { inTheWay } from '$core/holds/checks';
	import type { AnyHoldDown } from '$core/document/schema';
	import Bench from '$lib/desk/Bench.svelte';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import BlockPanel from '$lib/hold/BlockPanel.svelte';
	import HoldEditor from '$lib/hold/HoldEditor.svelte';
	import { isPutByPointing, putAt, type Pointed } from '$lib/bench-view/grips';
	import { HOLD_CHOICES, newHolds, type HoldChoice } from '$lib/hold/kinds';
	import { rootWords } from '$core/weldout/purge';
	import RootPanel from '$lib/hold/RootPanel.svelte';
	import { itemsOf } from '$lib/registers/shop';
	import { length } from '$lib/units';
	import Choice from '$lib/ui/Choice.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button } from 'flowbite-svelte';

	let { data } = $props();
	const desk = getDesk();
	const unit = $derived(data.person?.units ?? 'mm');
	let choice = $state<HoldChoice>('bar');
	let joint = $state('');
	let part = $state('');
	const wanted = $derived(HOLD_CHOICES.find((c) => c.value === choice)!);
	const onSeam = $derived(
		desk.seams.find((j) => j.id === (desk.selection?.kind === 'joint' ? desk.selection.id : joint))?.id ?? desk.seams[0]?.id ?? ''
	);
	const onPart = $derived((desk.selection?.kind === 'part' ? desk.selection.id : part) || (desk.doc.parts[0]?.id ?? ''));

	/** A short id that nothing on this piece has yet. */
	function unique(word: string) {
		for (let i = 1; ; i++) {
			const id = `${word}-${i}`;
			if (!desk.doc.holdDowns.some((h) => h.id === id || h.id.startsWith(`${id}-`))) return id;
		}
	}
	let refused = $state('');
	function put() {
		refused = '';
		const made = newHolds(choice, {
			plan: desk.doc,
			joint: desk.doc.joints.find((j) => j.id === onSeam),
			part: desk.doc.parts.find((p) => p.id === onPart)!,
			unique
		});
		if (!made.length) {
			refused = `${wanted.name} cannot go there: it wants a flat sheet.`;
			return;
		}
		const there = desk.doc.holdDowns.find((o) => made.some((m) => inTheWay(o, m)));
		if (there) {
			refused = `“${there.name}” is there already: change that one, or take it off first.`;
			desk.selection = { kind: 'hold-down', id: there.id };
			return;
		}
		if (desk.change(wanted.name.toLowerCase(), (d) => void d.holdDowns.push(...made)) && made.length === 1)
			desk.selection = { kind: 'hold-down', id: made[0].id };
	}
	/** the one wanted is put where the piece is clicked, until that is left */
	let isPointing = $state(false);
	const kindOf = (c: HoldChoice) => (c === 'block' ? 'bar' : c);
	const canPoint = $derived(isPutByPointing(kindOf(choice)));
	/** “Clamp 1 on…”: counted on from what is there */
	const counted = (name: string, kind: AnyHoldDown['kind']) =>
		name.replace(/ \d+ /, ` ${desk.doc.holdDowns.filter((h) => h.kind === kind).length + 1} `);
	function putThere(to: Pointed) {
		refused = '';
		const [first] = newHolds(choice, {
			plan: desk.doc,
			joint: to.on === 'seam' ? desk.doc.joints.find((j) => j.id === to.joint) : undefined,
			part: desk.doc.parts.find((p) => p.id === (to.on === 'part' ? to.part : onPart))!,
			unique
		});
		if (!first) return;
		const made = { ...putAt(first, desk.doc, to), name: counted(first.name, first.kind) };
		const there = desk.doc.holdDowns.find((o) => inTheWay(o, made));
		if (there) {
			refused = `“${there.name}” is there already: drag that one, or take it off first.`;
			desk.selection = { kind: 'hold-down', id: there.id };
		} else if (desk.change(`${wanted.name.toLowerCase()} where it was pointed at`, (d) => void d.holdDowns.push(made)))
			desk.selection = { kind: 'hold-down', id: made.id };
	}
	/** one of what a form puts on several of: “Clamp 1 on …” is a clamp */
	const one = $derived.by(() => {
		const [first] = newHolds(choice, { plan: desk.doc, joint: desk.doc.joints[0], part: desk.doc.parts[0], unique });
		return /^(.*?) \d+ /.exec(first?.name ?? '')?.[1] ?? wanted.name;
	});
	const putting = $derived(
		isPointing && canPoint && desk.mayEdit ? { on: wanted.on, name: one, onput: putThere, onleave: () => (isPointing = false) } : undefined
	);
	const edit = (h: AnyHoldDown, f: (x: AnyHoldDown) => void) => desk.change(`changing ${h.name}`, (d) => f(d.holdDowns.find((x) => x.id === h.id)!));
	const set = $derived(desk.doc.holdDowns.filter((h) => h.kind === 'clamp').length);
	const has = $derived(itemsOf(data.shop, 'clamp').reduce((n, c) => n + (c.item.count ?? 1), 0));
	const words = $derived(holdWords(desk.doc, (mm) => length(mm, unit, 0)));
	const where = (h: AnyHoldDown): string => holdKind(h).where(h, words);
</script>

<Bench edit="holds" put={putting} show={{ tacks: false, runs: false, holds: true }}>
	<Panel title="Put on">
		{#snippet aside()}<a class="text-sm text-primary-700 underline" href="/api/jobs/{data.job.id}/hold-sheet.pdf" target="_blank" rel="noopener"
				>Hold sheet</a
			>{/snippet}
		<div class="grid grid-cols-2 gap-3">
			<Choice
				label="What"
				value={choice}
				items={HOLD_CHOICES.map((c) => ({ value: c.value, name: c.name }))}
				onchange={(v) => (choice = v as HoldChoice)}
			/>
			{#if wanted.on === 'seam'}
				<Choice
					label="Seam"
					value={onSeam}
					items={desk.seams.map((j) => ({ value: j.id, name: j.name }))}
					onchange={(v) => {
						joint = v;
						desk.selection = { kind: 'joint', id: v };
					}}
				/>
			{:else}
				<Choice
					label="Part"
					value={onPart}
					items={desk.doc.parts.map((p) => ({ value: p.id, name: p.name }))}
					onchange={(v) => {
						part = v;
						desk.selection = { kind: 'part', id: v };
					}}
				/>
			{/if}
			{#if refused}<div class="col-span-2"><Notice kind="fault">{refused}</Notice></div>{/if}
		</div>
		{#if desk.mayEdit}<div class="mt-3 flex flex-wrap gap-2">
				<Button size="sm" onclick={put} disabled={wanted.on === 'seam' && !onSeam}>Put it on</Button>
				{#if canPoint}<Button
						size="sm"
						color={isPointing ? 'primary' : 'alternative'}
						aria-pressed={isPointing}
						onclick={() => (isPointing = !isPointing)}>{isPointing ? 'Stop pointing' : 'Point on the piece'}</Button
					>{/if}
			</div>
			<p class="mt-2 text-[13px] text-steel-600">What is on can be dragged on the piece where it has a ring; Delete takes the chosen one off.</p>{/if}
	</Panel>
	<Panel title="On this piece">
		{#if !desk.doc.holdDowns.length}<p class="text-sm text-steel-600">
				Nothing holds it yet: it is welded free. A bar clamped tight behind a seam is the strongest lever there is on thin sheet.
			</p>{/if}
		{#if has && set > has}<div class="mb-2">
				<Notice kind="caution">The plan sets {set} clamps; the register has {has} in all. Move some from seam to seam, or make one a jig.</Notice>
			</div>{/if}
		<ul class="space-y-2">
			{#each desk.doc.holdDowns as h (h.id)}
				{@const open = desk.selection?.id === h.id}
				<li class="border-t border-steel-200 pt-1.5 text-sm {open ? 'bg-straw-50' : ''}">
					<div class="flex items-baseline gap-2">
						<button
							type="button"
							class="flex-1 text-left font-medium"
							aria-expanded={open}
							onclick={() => (desk.selection = open ? undefined : { kind: 'hold-down', id: h.id })}>{h.name}</button
						>
						{#if desk.mayEdit}<button
								type="button"
								class="text-primary-700 underline"
								aria-label="Take off {h.name}"
								onclick={() => desk.change(`taking off ${h.name}`, (d) => void (d.holdDowns = d.holdDowns.filter((x) => x.id !== h.id)))}
								>Take off</button
							>{/if}
					</div>
					<p class="tab text-[13px] text-steel-600">{where(h)}</p>
					{#if open}
						<HoldEditor
							hold={h}
							plan={desk.doc}
							{unit}
							seams={desk.result?.seams ?? []}
							disabled={!desk.mayEdit}
							onedit={(f) => edit(h, f)}
							shop={data.shop}
						/>
					{/if}
				</li>
			{/each}
		</ul>
	</Panel>
	<RootPanel
		words={rootWords(desk.doc)}
		root={desk.doc.root}
		disabled={!desk.mayEdit}
		onchange={(root) => desk.change('what stands behind the root', (d) => void (d.root = root))}
	/>
	<BlockPanel plan={desk.doc} seams={desk.result?.seams ?? []} schedule={desk.result?.schedule} />
	<Panel title="What each does here"
		><p class="text-[13px] text-steel-600">
			A bar or block takes heat and lowers the pull; by itself it does not hold the sheet: add clamps or a jig. A clamp, jig or table tack holds its
			places while it is on, and the forecast gives the springback when it comes off. A weight holds until the sheet lifts it: the forecast says when
			it would. Braces and strongbacks stiffen; those that stay on stay in the final shape. The quick method holds both ways: it cannot tell lift-off.
		</p></Panel
	>
</Bench>
