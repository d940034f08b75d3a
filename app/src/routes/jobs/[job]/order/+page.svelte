<script lang="ts">
	import { Refusal } from '$core/refusal/refusal';
	import { DEFAULT_LENGTH_MM, DEFAULT_PITCH_MM } from '$core/schools/orders/intermittent';
	import { DEFAULT_ORDER, ORDER_PATTERNS, ORDER_SCHOOLS, type OrderPattern, type OrderRule } from '$core/schools/orders';
	import { orderDoesNotApply, orderPattern, putInOrder } from '$core/schools/orderPattern';
	import { backStepRuns, coolBefore, joinRuns, lockRuns, moveRuns, nudgeRuns, reverseRuns, splitRuns } from '$core/schools/orderEdit';
	import { groupByPosition, liesFor, UP_WORDS } from '$core/layout/positions';
	import type { Run } from '$core/document/schema';
	import { COOLING_WORDS, COOLINGS, type Cooling } from '$core/document/words';
	import { byWhen } from '$lib/bench-view/colours';
	import Bench from '$lib/desk/Bench.svelte';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import { seamLetters } from '$core/layout/seamNames';
	import { followLives } from '$core/sequence/lives';
	import OrderTabs from '$lib/order/OrderTabs.svelte';
	import RunStrip from '$lib/order/RunStrip.svelte';
	import ShopView from '$lib/order/ShopView.svelte';
	import BenchView from '$lib/bench-view/BenchView.svelte';
	import { duration, length } from '$lib/units';
	import Choice from '$lib/ui/Choice.svelte';
	import LengthField from '$lib/ui/LengthField.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button } from 'flowbite-svelte';

	let { data } = $props();
	const desk = getDesk();
	const unit = $derived(data.person?.units ?? 'mm');
	let rule = $state<OrderRule>({ ...DEFAULT_ORDER });
	let refused = $state('');
	let picked = $state.raw<ReadonlySet<string>>(new Set());
	const seam = $derived(desk.selection?.kind === 'joint' ? desk.selection.id : undefined);
	const letters = $derived(seamLetters(desk.doc.joints));
	const nameOf = (id: string) => desk.doc.joints.find((j) => j.id === id)?.name ?? id;
	const whyNot = $derived(orderDoesNotApply(desk.doc, $state.snapshot(rule), seam ? [seam] : undefined));
	/** picked runs that are still there; a run chosen on a tape counts as picked */
	const chosen = $derived(
		new Set(
			desk.doc.runs
				.filter((r) => picked.has(r.id))
				.map((r) => r.id)
				.concat(picked.size === 0 && desk.selection?.kind === 'run' ? [desk.selection.id] : [])
		)
	);
	const one = $derived(chosen.size === 1 ? desk.doc.runs.findIndex((r) => chosen.has(r.id)) : -1);
	const run = $derived(desk.doc.runs[one] as Run | undefined);
	const lies = $derived(desk.geometry?.positions ? liesFor(desk.doc.runs, new Map(desk.geometry.positions)) : []);
	const flips = $derived(lies.filter((u, i) => i > 0 && u !== lies[i - 1]).length);
	const timing = $derived(new Map(desk.result?.schedule?.runs.map((r) => [r.run, r]) ?? []));

	function attempt(label: string, edit: (runs: Run[]) => Run[]) {
		refused = '';
		desk.change(label, (d) => {
			try {
				d.runs = edit(d.runs);
			} catch (e) {
				if (!(e instanceof Refusal)) throw e;
				refused = e.message;
				return;
			}
			return followLives(d.holdDowns, d.runs);
		});
	}
	const apply = (joints?: string[]) =>
		attempt(joints ? `order of ${nameOf(joints[0])}` : ORDER_SCHOOLS[rule.pattern].name, (runs) => {
			const fresh = orderPattern({ ...desk.doc, runs }, $state.snapshot(rule), joints);
			return joints ? putInOrder({ ...desk.doc, runs }, fresh, joints) : fresh;
		});
	function pick(ids: Set<string>) {
		picked = ids;
		desk.selection = ids.size === 1 ? { kind: 'run', id: [...ids][0] } : undefined;
	}
	const takeOut = () => attempt(chosen.size > 1 ? 'taking runs out' : 'taking a run out', (runs) => runs.filter((r) => !chosen.has(r.id)));
	const isEdit = (e: KeyboardEvent) => !e.ctrlKey && !e.metaKey && (e.altKey || /^([rbl]|delete|backspace)$/i.test(e.key));
	function keys(e: KeyboardEvent): boolean {
		if (!desk.mayEdit || !chosen.size || e.ctrlKey || e.metaKey) return false;
		const key = e.key.toLowerCase();
		if (e.altKey && (key === 'arrowleft' || key === 'arrowup')) attempt('moving runs in the order', (r) => nudgeRuns(r, chosen, -1));
		else if (e.altKey && (key === 'arrowright' || key === 'arrowdown')) attempt('moving runs in the order', (r) => nudgeRuns(r, chosen, 1));
		else if (key === 'r') attempt('reversing runs', (r) => reverseRuns(r, chosen));
		else if (key === 'b') attempt('back-stepping runs', (r) => backStepRuns(r, chosen));
		else if (key === 'l') attempt('locking runs', (r) => lockRuns(r, chosen, !desk.doc.runs.some((x) => chosen.has(x.id) && x.locked)));
		else if (key === 'delete' || key === 'backspace') takeOut();
		else return false;
		e.preventDefault();
		return true;
	}
	const cooling = $derived(desk.doc.runs.find((r) => chosen.has(r.id))?.cooling ?? 'still');
	const isAustenitic = $derived(desk.doc.parts.every((p) => /^3\d\d/.test(p.material)));
</script>

<OrderTabs jobId={desk.jobId} />
<Bench edit="runs" show={{ tacks: false, runs: true, holds: true }}>
	{#snippet view()}
		<div class="flex h-full flex-col">
			<div class="min-h-0 flex-1 overflow-hidden"><BenchView show={{ tacks: false, runs: true, holds: true }} /></div>
			<div class="relative max-h-[104px] shrink-0 overflow-y-auto border-t-2 border-steel-700">
				<RunStrip
					runs={desk.doc.runs}
					joints={desk.doc.joints}
					picked={chosen}
					lies={lies.map((u) => UP_WORDS[u])}
					onpick={pick}
					onmove={desk.mayEdit ? (ids, to) => attempt('moving runs in the order', (r) => moveRuns(r, ids, to)) : undefined}
					onkey={keys}
				/>
			</div>
		</div>
	{/snippet}
	<Panel title="Pattern">
		<div class="space-y-3">
			<Choice
				label="School"
				value={rule.pattern}
				items={ORDER_PATTERNS.map((p) => ({ value: p, name: ORDER_SCHOOLS[p].name }))}
				onchange={(v) => {
					const next = v as OrderPattern;
					if (ORDER_SCHOOLS[next].isIntermittent && !ORDER_SCHOOLS[rule.pattern].isIntermittent)
						rule = { pattern: next, runLengthMm: DEFAULT_LENGTH_MM, pitchMm: DEFAULT_PITCH_MM };
					else rule = { ...rule, pattern: next };
				}}
			/>
			<div class="grid grid-cols-2 gap-3">
				<LengthField
					label={ORDER_SCHOOLS[rule.pattern].isIntermittent ? 'Each weld' : 'Run length, about'}
					mm={rule.runLengthMm}
					{unit}
					min={5}
					max={4000}
					onchange={(v) => (rule.runLengthMm = v)}
				/>
				{#if ORDER_SCHOOLS[rule.pattern].isIntermittent}<LengthField
						label="Pitch"
						mm={rule.pitchMm ?? DEFAULT_PITCH_MM}
						{unit}
						min={10}
						max={4000}
						onchange={(v) => (rule.pitchMm = v)}
					/>{/if}
			</div>
		</div>
		{#if whyNot}<div class="mt-2"><Notice kind="caution">{whyNot}</Notice></div>{/if}
		{#if desk.mayEdit}
			<div class="mt-3 flex flex-wrap gap-2">
				<Button size="sm" disabled={Boolean(whyNot) && !seam} onclick={() => apply()}>Use on all seams</Button>
				<Button size="sm" color="alternative" disabled={!seam || Boolean(whyNot)} onclick={() => apply([seam!])}
					>Use on {seam ? nameOf(seam) : 'the chosen seam'}</Button
				>
				<Button
					size="sm"
					color="alternative"
					disabled={!desk.geometry || flips === 0}
					onclick={() => attempt('grouping by position', (r) => groupByPosition(r, new Map(desk.geometry!.positions)))}>Group by position</Button
				>
			</div>
		{/if}
		<p class="mt-2 text-[13px] text-steel-600">
			{flips === 0 ? 'No flip in this order.' : `${flips} flip${flips > 1 ? 's' : ''} in this order (⟳ on the strip).`} A pattern keeps locked runs.
		</p>
	</Panel>
	{#if refused}<div class="bg-white px-4 py-2"><Notice kind="fault">{refused}</Notice></div>{/if}
	{#if chosen.size && desk.mayEdit}
		<Panel title={run ? `Run ${one + 1}, ${nameOf(run.joint)}` : `${chosen.size} runs picked`}>
			{#if run}
				<div class="mb-3 grid grid-cols-2 gap-3">
					<LengthField
						label="From station"
						mm={run.fromMm}
						{unit}
						onchange={(v) => desk.change('start of a run', (d) => void (d.runs[one].fromMm = v))}
					/>
					<LengthField label="To station" mm={run.toMm} {unit} onchange={(v) => desk.change('end of a run', (d) => void (d.runs[one].toMm = v))} />
					<NumberField
						label="Pause before"
						unit="s"
						value={run.waitBeforeS}
						optional
						min={0}
						max={36000}
						hint="empty: as the metal needs"
						onchange={(v) =>
							desk.change('pause before a run', (d) => {
								if (v === undefined) delete d.runs[one].waitBeforeS;
								else d.runs[one].waitBeforeS = v;
							})}
					/>
					<Choice
						label="Settings"
						value={run.settings ?? ''}
						items={[{ value: '', name: 'of the joint' }, ...desk.doc.settings.map((s) => ({ value: s.id, name: s.name }))]}
						onchange={(v) =>
							desk.change('settings of a run', (d) => {
								if (v) d.runs[one].settings = v;
								else delete d.runs[one].settings;
							})}
					/>
				</div>
			{/if}
			<Choice
				label="Cooling in the wait before"
				value={cooling}
				items={COOLINGS.map((c) => ({ value: c, name: COOLING_WORDS[c] }))}
				onchange={(v) => attempt('cooling before runs', (r) => coolBefore(r, chosen, v as Cooling))}
			/>
			{#if cooling === 'local' && !isAustenitic}<div class="mt-2">
					<Notice kind="caution">Forced cooling on one spot is for austenitic stainless only: carbon steel hardens, aluminium cracks.</Notice>
				</div>{/if}
			<div class="mt-3 flex flex-wrap gap-1.5">
				<Button size="xs" color="alternative" onclick={() => attempt('moving runs in the order', (r) => nudgeRuns(r, chosen, -1))}>Earlier</Button>
				<Button size="xs" color="alternative" onclick={() => attempt('moving runs in the order', (r) => nudgeRuns(r, chosen, 1))}>Later</Button>
				<Button size="xs" color="alternative" onclick={() => attempt('reversing runs', (r) => reverseRuns(r, chosen))}>Reverse</Button>
				<Button size="xs" color="alternative" onclick={() => attempt('back-stepping runs', (r) => backStepRuns(r, chosen))}>Back-step</Button>
				<Button size="xs" color="alternative" onclick={() => attempt('splitting runs', (r) => splitRuns(r, chosen, 2))}>Split in two</Button>
				<Button size="xs" color="alternative" disabled={chosen.size < 2} onclick={() => attempt('joining runs', (r) => joinRuns(r, chosen))}
					>Join</Button
				>
				<Button
					size="xs"
					color="alternative"
					onclick={() => attempt('locking runs', (r) => lockRuns(r, chosen, !desk.doc.runs.some((x) => chosen.has(x.id) && x.locked)))}
					>{desk.doc.runs.some((x) => chosen.has(x.id) && x.locked) ? 'Unlock' : 'Lock in place'}</Button
				>
				<Button size="xs" color="alternative" onclick={takeOut}>Take out</Button>
			</div>
		</Panel>
	{/if}
	<Panel title="Weld order">
		{#snippet aside()}<span class="tab text-sm"
				>{desk.doc.runs.length} runs{#if desk.result?.schedule}, {duration(desk.result.schedule.totalS)}{/if}</span
			>{/snippet}
		{#if !desk.doc.runs.length}<p class="text-sm text-steel-600">No runs yet: choose a pattern above.</p>{/if}
		<ol aria-label="Weld order">
			{#each desk.doc.runs as r, i (r.id)}
				<li class="border-t border-steel-200 first:border-0">
					<button
						type="button"
						data-run={r.id}
						class="flex w-full items-center gap-2 px-1 py-1 text-left text-sm {chosen.has(r.id) ? 'bg-straw-100' : 'hover:bg-steel-50'}"
						aria-pressed={chosen.has(r.id)}
						onclick={(e) => {
							const next = new Set(e.ctrlKey || e.metaKey ? chosen : []);
							if (next.has(r.id)) next.delete(r.id);
							else next.add(r.id);
							pick(next);
						}}
						onkeydown={(e) => {
							// a key meant for the run in focus takes it, picked or not
							if (!chosen.has(r.id) && isEdit(e)) pick(new Set([r.id]));
							keys(e);
						}}
					>
						<span
							class="tab w-7 border-l-4 pl-1 font-semibold"
							style="border-color:{byWhen(desk.doc.runs.length > 1 ? i / (desk.doc.runs.length - 1) : 0)}">{i + 1}</span
						>
						<span class="w-5 font-semibold">{letters.get(r.joint)}</span>
						<span class="flex-1 truncate">{nameOf(r.joint)}</span>
						<span class="tab">{length(r.fromMm, unit, 0).replace(/ (mm|in)$/, '')} → {length(r.toMm, unit, 0)}</span>
						{#if (timing.get(r.id)?.waitS ?? 0) >= 20}<span class="tab text-[12px] text-straw-700" title="Wait before this run"
								>+{duration(timing.get(r.id)!.waitS)}</span
							>{/if}
					</button>
				</li>
			{/each}
		</ol>
		<p class="mt-2 text-[13px] text-steel-600">
			Pick with a click, Ctrl or Shift for several; drag on the strip. Alt with arrows moves, R reverses, B back-steps, L locks, Delete takes out.
			Where every place is tacked, order acts through heat: what other seams have left, and what short runs and pauses take of a seam's own. The final
			shape and the search's table know it, the quick method does not.
		</p>
	</Panel>
	<ShopView jobId={desk.jobId} schedule={desk.result?.schedule} />
	<Panel title="On the steel">
		<ul class="space-y-1 text-sm">
			<li>
				<a class="text-primary-700 underline" href="/api/jobs/{desk.jobId}/traveller.pdf" target="_blank" rel="noopener">Traveller (PDF)</a>: fit-up,
				hold, tack marks and runs, with the run screen's code
			</li>
			<li>
				<a class="text-primary-700 underline" href="/api/jobs/{desk.jobId}/etched-blanks.dxf">Blanks with etch layers (DXF)</a>: tacks, run bounds,
				numbers and arrows, seam names
			</li>
			<li>
				<a class="text-primary-700 underline" href="/api/jobs/{desk.jobId}/strips.pdf" target="_blank" rel="noopener">Strips at full size (PDF)</a>,
				to tape beside each seam
			</li>
			{#if seam}<li>
					<a class="text-primary-700 underline" href="/api/jobs/{desk.jobId}/strips/{seam}.svg" target="_blank" rel="noopener"
						>Strip of {nameOf(seam)} (SVG)</a
					>
				</li>{/if}
		</ul>
		<p class="mt-1 text-[13px] text-steel-600">As last saved.</p>
	</Panel>
</Bench>
