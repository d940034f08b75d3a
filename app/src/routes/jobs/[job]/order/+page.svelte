<script lang="ts">
	import { DEFAULT_ORDER, orderPattern, ORDER_PATTERNS, ORDER_WORDS, type OrderPattern } from '$core/plan/orderPatterns';
	import type { Run } from '$core/plan/schema';
	import { byWhen } from '$lib/bench-view/colours';
	import Bench from '$lib/desk/Bench.svelte';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import { duration, length } from '$lib/units';
	import Choice from '$lib/ui/Choice.svelte';
	import LengthField from '$lib/ui/LengthField.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button } from 'flowbite-svelte';

	let { data } = $props();
	const desk = getDesk();
	const unit = $derived(data.person?.units ?? 'mm');
	let rule = $state({ ...DEFAULT_ORDER });
	const seam = $derived(desk.selection?.kind === 'joint' ? desk.selection.id : undefined);
	const nameOf = (id: string) => desk.doc.joints.find((j) => j.id === id)?.name ?? id;
	const chosen = $derived(desk.selection?.kind === 'run' ? desk.doc.runs.findIndex((r) => r.id === desk.selection!.id) : -1);
	const run = $derived(desk.doc.runs[chosen] as Run | undefined);
	/** unique ids although a pattern is used on one seam after another */
	function apply(joints?: string[]) {
		desk.change(joints ? `order of ${nameOf(joints[0])}` : ORDER_WORDS[rule.pattern], (d) => {
			const fresh = orderPattern(d, $state.snapshot(rule), joints);
			const runs = joints ? [...d.runs.filter((r) => !joints.includes(r.joint)), ...fresh] : fresh;
			d.runs = runs;
			return followLives(d.holdDowns, runs);
		});
	}
	/** hold-downs that named a run which is gone go back to the whole weld-out, and say so */
	function followLives(holds: typeof desk.doc.holdDowns, runs: Run[]): string[] {
		const ids = new Set(runs.map((r) => r.id));
		const notes: string[] = [];
		for (const h of holds)
			for (const key of ['on', 'off'] as const) {
				const m = /^(?:before|after)-run:(.+)$/.exec(h.life[key]);
				if (m && !ids.has(m[1])) {
					h.life[key] = key === 'on' ? 'start' : 'when-cold';
					notes.push(`${h.name}: its run is gone, so it is now on for the whole weld-out.`);
				}
			}
		return notes;
	}
	function move(from: number, to: number) {
		if (to < 0 || to >= desk.doc.runs.length || from === to) return;
		desk.change('moving a run in the order', (d) => {
			const [r] = d.runs.splice(from, 1);
			d.runs.splice(to, 0, r);
		});
	}
	const reverse = (i: number) =>
		desk.change('reversing a run', (d) => void ([d.runs[i].fromMm, d.runs[i].toMm] = [d.runs[i].toMm, d.runs[i].fromMm]));
	let dragged = $state(-1);
	let over = $state(-1);
	const timing = (id: string) => desk.result?.schedule?.runs.find((r) => r.run === id);
	function keys(e: KeyboardEvent, i: number) {
		const list = (e.currentTarget as HTMLElement).closest('ol');
		if (e.altKey && (e.key === 'ArrowUp' || e.key === 'ArrowDown')) {
			e.preventDefault();
			move(i, e.key === 'ArrowUp' ? i - 1 : i + 1);
		} else if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
			e.preventDefault();
			list?.querySelectorAll<HTMLElement>('[data-run]')[e.key === 'ArrowUp' ? i - 1 : i + 1]?.focus();
		} else if (e.key.toLowerCase() === 'r') reverse(i);
		else if (e.key === 'Delete') desk.change('taking a run out', (d) => followLives(d.holdDowns, (d.runs = d.runs.filter((_, k) => k !== i))));
	}
</script>

<Bench edit="runs" show={{ tacks: false, runs: true, holds: true }}>
	<Panel title="Pattern">
		<div class="space-y-3">
			<Choice
				label="School"
				value={rule.pattern}
				items={ORDER_PATTERNS.map((p) => ({ value: p, name: ORDER_WORDS[p] }))}
				onchange={(v) => (rule.pattern = v as OrderPattern)}
			/>
			<LengthField label="Run length, about" mm={rule.runLengthMm} {unit} min={5} max={4000} onchange={(v) => (rule.runLengthMm = v)} />
		</div>
		{#if desk.mayEdit}
			<div class="mt-3 flex flex-wrap gap-2">
				<Button size="sm" onclick={() => apply()}>Use on all seams</Button>
				<Button size="sm" color="alternative" disabled={!seam} onclick={() => apply([seam!])}>Use on {seam ? nameOf(seam) : 'the chosen seam'}</Button
				>
			</div>
		{/if}
	</Panel>
	{#if run}
		<Panel title="Run {chosen + 1}">
			<div class="grid grid-cols-2 gap-3">
				<LengthField
					label="From station"
					mm={run.fromMm}
					{unit}
					onchange={(v) => desk.change('start of a run', (d) => void (d.runs[chosen].fromMm = v))}
					disabled={!desk.mayEdit}
				/>
				<LengthField
					label="To station"
					mm={run.toMm}
					{unit}
					onchange={(v) => desk.change('end of a run', (d) => void (d.runs[chosen].toMm = v))}
					disabled={!desk.mayEdit}
				/>
				<NumberField
					label="Wait before"
					unit="s"
					value={run.waitBeforeS}
					optional
					min={0}
					max={36000}
					hint="empty: as the metal needs"
					onchange={(v) =>
						desk.change('wait before a run', (d) => {
							if (v === undefined) delete d.runs[chosen].waitBeforeS;
							else d.runs[chosen].waitBeforeS = v;
						})}
					disabled={!desk.mayEdit}
				/>
				<Choice
					label="Settings"
					value={run.settings ?? ''}
					items={[{ value: '', name: 'of the joint' }, ...desk.doc.settings.map((s) => ({ value: s.id, name: s.name }))]}
					onchange={(v) =>
						desk.change('settings of a run', (d) => {
							if (v) d.runs[chosen].settings = v;
							else delete d.runs[chosen].settings;
						})}
					disabled={!desk.mayEdit}
				/>
			</div>
			{#if desk.mayEdit}
				<div class="mt-2 flex flex-wrap gap-2">
					<Button size="xs" color="alternative" onclick={() => move(chosen, chosen - 1)}>Earlier</Button><Button
						size="xs"
						color="alternative"
						onclick={() => move(chosen, chosen + 1)}>Later</Button
					><Button size="xs" color="alternative" onclick={() => reverse(chosen)}>Reverse</Button><Button
						size="xs"
						color="alternative"
						onclick={() => desk.change('taking a run out', (d) => followLives(d.holdDowns, (d.runs = d.runs.filter((_, k) => k !== chosen))))}
						>Take out</Button
					>
				</div>
			{/if}
		</Panel>
	{/if}
	<Panel title="Weld order">
		{#snippet aside()}<span class="tab text-sm"
				>{desk.doc.runs.length} runs{#if desk.result?.schedule}, {duration(desk.result.schedule.totalS)}{/if}</span
			>{/snippet}
		{#if !desk.doc.runs.length}<p class="text-sm text-steel-600">No runs yet: choose a pattern above.</p>{/if}
		<ol aria-label="Weld order">
			{#each desk.doc.runs as r, i (r.id)}
				<li
					class="border-t border-steel-200 first:border-0 {over === i ? 'border-t-4 !border-straw-400' : ''}"
					ondragover={(e) => {
						e.preventDefault();
						over = i;
					}}
					ondrop={(e) => {
						e.preventDefault();
						move(dragged, i);
						dragged = over = -1;
					}}
				>
					<button
						type="button"
						data-run={r.id}
						draggable={desk.mayEdit}
						class="flex w-full items-center gap-2 px-1 py-1 text-left text-sm {desk.selection?.id === r.id ? 'bg-straw-100' : 'hover:bg-steel-50'}"
						aria-pressed={desk.selection?.id === r.id}
						onclick={() => (desk.selection = { kind: 'run', id: r.id })}
						onkeydown={(e) => keys(e, i)}
						ondragstart={() => (dragged = i)}
						ondragend={() => (dragged = over = -1)}
					>
						<span
							class="tab w-7 border-l-4 pl-1 font-semibold"
							style="border-color:{byWhen(desk.doc.runs.length > 1 ? i / (desk.doc.runs.length - 1) : 0)}">{i + 1}</span
						>
						<span class="flex-1 truncate">{nameOf(r.joint)}</span>
						<span class="tab">{length(r.fromMm, unit, 0).replace(/ (mm|in)$/, '')} → {length(r.toMm, unit, 0)}</span>
						{#if (timing(r.id)?.waitS ?? 0) >= 20}<span class="tab text-[12px] text-straw-700" title="Wait before this run"
								>+{duration(timing(r.id)!.waitS)}</span
							>{/if}
					</button>
				</li>
			{/each}
		</ol>
		<p class="mt-2 text-[13px] text-steel-600">
			Drag, or Alt with the up and down keys; R reverses; Delete takes out. With every place tacked first, the linear method sees no effect of order
			at all: the full method of a later version will. Colour: straw is early, blue is late.
		</p>
	</Panel>
</Bench>
