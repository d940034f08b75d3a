<script lang="ts">
	/** Every seam unrolled as a steel rule, all to one scale. Lanes: runs above, the rule with tacks, hold-downs below. */
	import { holdPage } from '$lib/hold/kinds';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import { gripsOf, isSameGrip, moveGrip, type Editing, type SeamGrip } from '$lib/bench-view/grips';
	import { byWhen } from '$lib/bench-view/colours';
	import { pathLength } from '$core/geometry/polyline';
	import { boundRange, moveBound, type RunEnd } from '$core/schools/orderEdit';
	import { seamLetters } from '$core/layout/seamNames';
	import type { Joint } from '$core/document/schema';

	interface Props {
		/** what can be moved here */
		edit?: Editing;
		show?: { tacks: boolean; runs: boolean; holds: boolean };
	}
	let { edit = 'none', show = { tacks: true, runs: true, holds: true } }: Props = $props();
	const desk = getDesk();
	const NAME = 150;
	const PAD = 16;
	let width = $state(800);
	/** the same letter as on bench and sheets */
	const letters = $derived(seamLetters(desk.doc.joints));
	const lengths = $derived(new Map(desk.doc.joints.map((j) => [j.id, pathLength(j.a.path)])));
	const longest = $derived(Math.max(1, ...lengths.values()));
	const scale = $derived((width - NAME - 2 * PAD) / longest);
	const x = (mm: number) => NAME + PAD + mm * scale;
	const ROW = 68;

	let drag = $state<{ id: string; joint: string; start: number; at: number; moved: boolean } | undefined>();
	const snapTo = (mm: number, joint: string) => {
		const end = lengths.get(joint) ?? 0;
		// whole millimetres; within 4 px of a 10 mm mark it takes the mark
		const mark = Math.round(mm / 10) * 10;
		const v = Math.abs(mark - mm) * scale < 4 ? mark : Math.round(mm);
		return Math.max(0, Math.min(end, v));
	};
	const select = (kind: 'joint' | 'tack' | 'run' | 'hold-down', id: string) => (desk.selection = { kind, id });

	function moveTack(id: string, to: number) {
		desk.change('moving a tack', (d) => {
			const t = d.tacks.find((q) => q.id === id);
			if (t) t.stationMm = to;
		});
	}
	function grab(e: PointerEvent, id: string, joint: string, station: number) {
		select('tack', id);
		if (edit !== 'tacks' || !desk.mayEdit) return;
		(e.currentTarget as Element).setPointerCapture(e.pointerId);
		drag = { id, joint, start: e.clientX, at: station, moved: false };
	}
	function pull(e: PointerEvent) {
		if (!drag) return;
		const from = desk.doc.tacks.find((t) => t.id === drag!.id)?.stationMm ?? drag.at;
		if (Math.abs(e.clientX - drag.start) > 2) drag.moved = true;
		drag.at = snapTo(from + (e.clientX - drag.start) / scale, drag.joint);
	}
	function drop() {
		if (drag?.moved) moveTack(drag.id, drag.at);
		drag = undefined;
	}
	function tackKeys(e: KeyboardEvent, id: string, joint: string, station: number) {
		if (edit !== 'tacks' || !desk.mayEdit) return;
		const by = e.shiftKey ? 10 : 1;
		if (e.key === 'ArrowLeft' || e.key === 'ArrowRight') {
			e.preventDefault();
			moveTack(id, Math.max(0, Math.min(lengths.get(joint) ?? 0, station + (e.key === 'ArrowLeft' ? -by : by))));
		} else if (e.key === 'Delete' || e.key === 'Backspace') {
			e.preventDefault();
			desk.change('taking a tack out', (d) => void (d.tacks = d.tacks.filter((t) => t.id !== id)));
		}
	}
	function runKeys(e: KeyboardEvent, id: string) {
		if (edit !== 'runs' || !desk.mayEdit) return;
		const i = desk.doc.runs.findIndex((r) => r.id === id);
		if (e.key === 'ArrowLeft' || e.key === 'ArrowRight') {
			e.preventDefault();
			const to = e.key === 'ArrowLeft' ? i - 1 : i + 1;
			if (to < 0 || to >= desk.doc.runs.length) return;
			desk.change('moving a run in the order', (d) => {
				const [r] = d.runs.splice(i, 1);
				d.runs.splice(to, 0, r);
			});
		} else if (e.key.toLowerCase() === 'r') {
			desk.change('reversing a run', (d) => void ([d.runs[i].fromMm, d.runs[i].toMm] = [d.runs[i].toMm, d.runs[i].fromMm]));
		}
	}
	/** a bound of a run being dragged */
	let pulled = $state<{ id: string; end: RunEnd; from: number; start: number; at: number } | undefined>();
	const within = (mm: number, [lo, hi]: [number, number]) => Math.max(lo, Math.min(hi, mm));
	const putBound = (id: string, end: RunEnd, to: number) =>
		desk.change('moving a run’s bound', (d) => void (d.runs = moveBound(d.runs, id, end, to)));
	function grabBound(e: PointerEvent, id: string, end: RunEnd, from: number) {
		(e.currentTarget as Element).setPointerCapture(e.pointerId);
		pulled = { id, end, from, start: e.clientX, at: from };
	}
	function pullBound(e: PointerEvent, joint: string) {
		const range = pulled && boundRange(desk.doc.runs, pulled.id, pulled.end, lengths.get(joint) ?? 0);
		if (pulled && range) pulled.at = within(snapTo(pulled.from + (e.clientX - pulled.start) / scale, joint), range);
	}
	function dropBound() {
		if (pulled && pulled.at !== pulled.from) putBound(pulled.id, pulled.end, pulled.at);
		pulled = undefined;
	}
	function boundKeys(e: KeyboardEvent, id: string, end: RunEnd, now: number, range: [number, number]) {
		if (e.key !== 'ArrowLeft' && e.key !== 'ArrowRight') return;
		e.preventDefault();
		const by = (e.shiftKey ? 10 : 1) * (e.key === 'ArrowLeft' ? -1 : 1);
		const to = within(now + by, range);
		if (to !== now) putBound(id, end, to);
	}
	/** an end or a station of a hold-down being dragged */
	let gripped = $state<{ grip: SeamGrip; start: number; at: number } | undefined>();
	const grips = $derived(edit === 'holds' && desk.mayEdit ? gripsOf(desk.doc, 'holds').filter((g) => g.on === 'seam') : []);
	const putGrip = (grip: SeamGrip, to: number) =>
		desk.change(`moving ${grip.name}`, (d) => moveGrip(d, grip, { on: 'seam', joint: grip.joint, stationMm: to }));
	function grabGrip(e: PointerEvent, grip: SeamGrip) {
		select('hold-down', grip.owner);
		(e.currentTarget as Element).setPointerCapture(e.pointerId);
		gripped = { grip, start: e.clientX, at: grip.atMm };
	}
	function pullGrip(e: PointerEvent) {
		if (gripped) gripped.at = within(snapTo(gripped.grip.atMm + (e.clientX - gripped.start) / scale, gripped.grip.joint), [...gripped.grip.range]);
	}
	function dropGrip() {
		if (gripped && gripped.at !== gripped.grip.atMm) putGrip(gripped.grip, gripped.at);
		gripped = undefined;
	}
	function gripKeys(e: KeyboardEvent, grip: SeamGrip) {
		if (e.key === 'Delete' || e.key === 'Backspace') {
			e.preventDefault();
			desk.change(`taking off ${grip.name}`, (d) => void (d.holdDowns = d.holdDowns.filter((h) => h.id !== grip.owner)));
		}
		if (e.key !== 'ArrowLeft' && e.key !== 'ArrowRight') return;
		e.preventDefault();
		const by = (e.shiftKey ? 10 : 1) * (e.key === 'ArrowLeft' ? -1 : 1);
		const to = within(grip.atMm + by, [...grip.range]);
		if (to !== grip.atMm) putGrip(grip, to);
	}
	const GRIP_WORDS: Record<string, string> = { fromMm: 'Start of ', toMm: 'End of ' };
	const ticks = (l: number) => Array.from({ length: Math.floor(l / 10) + 1 }, (_, i) => i * 10);
	/** as they are drawn: with a bound that is being dragged where it is now */
	const drawn = $derived(pulled ? moveBound(desk.doc.runs, pulled.id, pulled.end, pulled.at) : desk.doc.runs);
	const runsOf = (j: Joint) => drawn.map((r, i) => ({ ...r, number: i + 1 })).filter((r) => r.joint === j.id);
	const chosen = (id: string) => desk.selection?.id === id;
</script>

<div class="overflow-x-hidden bg-white" bind:clientWidth={width}>
	{#each desk.seams as j (j.id)}
		{@const l = lengths.get(j.id) ?? 0}
		<svg {width} height={ROW} class="block border-t border-steel-200" role="group" aria-label="Tape of seam {j.name}, {l.toFixed(1)} mm">
			{#if chosen(j.id)}<rect x="0" y="0" {width} height={ROW} fill="#fdf8ec" />{/if}
			<!-- the name selects the seam -->
			<g
				role="button"
				tabindex="0"
				aria-label="Select seam {j.name}"
				aria-pressed={chosen(j.id)}
				class="cursor-pointer"
				onclick={() => select('joint', j.id)}
				onkeydown={(e) => (e.key === 'Enter' || e.key === ' ') && (e.preventDefault(), select('joint', j.id))}
			>
				<rect x="0" y="0" width={NAME} height={ROW} fill="transparent" />
				<text x="10" y="26" class="fill-straw-700" font-size="16" font-weight="600" font-family="Barlow">{letters.get(j.id) ?? ''}</text>
				<text x="30" y="25" class="fill-steel-900" font-size="14" font-weight="600" font-family="Barlow"
					>{j.name.length > 17 ? `${j.name.slice(0, 16)}…` : j.name}</text
				>
				<text x="30" y="43" class="fill-steel-600" font-size="12" font-family="JetBrains Mono Variable">{l.toFixed(1)} mm</text>
			</g>
			<!-- the rule -->
			<rect x={x(0)} y="26" width={l * scale} height="15" fill="#eceff1" stroke="#8f9ca6" />
			<path d="M{x(0)} 22v23" stroke="#29323a" stroke-width="3" />
			{#each ticks(l) as t (t)}
				{#if scale * 10 > 3 || t % 50 === 0}
					<path d="M{x(t)} 41v{t % 100 === 0 ? -11 : t % 50 === 0 ? -8 : -4}" stroke="#66747f" />
				{/if}
				{#if t % 100 === 0 && t > 0 && l - t > 12}<text
						x={x(t)}
						y="54"
						font-size="11"
						text-anchor="middle"
						class="fill-steel-600"
						font-family="JetBrains Mono Variable">{t}</text
					>{/if}
			{/each}
			{#if show.holds}
				{#each desk.doc.holdDowns as h (h.id)}
					{#each holdPage(h.kind).draw(h as never, desk.doc) as d, k (k)}
						{#if d.by === 'seam-line' && d.joint === j.id}
							<rect
								role="button"
								tabindex="0"
								aria-label="{h.name}, {d.fromMm} to {d.toMm} mm"
								x={x(d.fromMm)}
								y={d.lift < 0 ? 58 : 63}
								width={(d.toMm - d.fromMm) * scale}
								height={d.lift < 0 ? 4 : 3}
								fill={chosen(h.id) ? '#d9a441' : d.colour}
								stroke={chosen(h.id) ? '#192026' : 'none'}
								onclick={() => select('hold-down', h.id)}
								onkeydown={(e) => e.key === 'Enter' && select('hold-down', h.id)}
							/>
						{:else if d.by === 'seam-block' && d.joint === j.id}
							<path
								role="button"
								tabindex="0"
								aria-label="{h.name} at {d.stationMm} mm"
								d="M{x(d.stationMm) - 6} 67h12l-6 -9z"
								fill={chosen(h.id) ? '#d9a441' : d.colour}
								onclick={() => select('hold-down', h.id)}
								onkeydown={(e) => e.key === 'Enter' && select('hold-down', h.id)}
							/>
						{/if}
					{/each}
				{/each}
			{/if}
			{#each grips.filter((g) => g.joint === j.id) as g (g.owner + g.field)}
				{@const isGripped = gripped !== undefined && isSameGrip(gripped.grip, g)}
				{@const at = isGripped ? gripped!.at : g.atMm}
				<g
					role="slider"
					tabindex="0"
					aria-label="{GRIP_WORDS[g.field] ?? ''}{g.name}"
					aria-valuenow={at}
					aria-valuemin={g.range[0]}
					aria-valuemax={g.range[1]}
					aria-valuetext="{at} mm"
					class="cursor-ew-resize touch-none"
					onpointerdown={(e) => grabGrip(e, g)}
					onpointermove={pullGrip}
					onpointerup={dropGrip}
					onpointercancel={() => (gripped = undefined)}
					onkeydown={(e) => gripKeys(e, g)}
					onfocus={() => select('hold-down', g.owner)}
				>
					<rect x={x(at) - 7} y="50" width="14" height="18" fill="transparent" />
					<path d="M{x(at)} 55v13" stroke={chosen(g.owner) ? '#b45309' : '#192026'} stroke-width={isGripped ? 4 : 2.5} />
					{#if isGripped}<text
							x={x(at)}
							y="20"
							font-size="12"
							font-weight="600"
							text-anchor="middle"
							class="fill-steel-900"
							font-family="JetBrains Mono Variable">{at}</text
						>{/if}
				</g>
			{/each}
			{#if show.runs}
				{#each runsOf(j) as r (r.id)}
					{@const a = x(Math.min(r.fromMm, r.toMm)) + 1.5}
					{@const b = x(Math.max(r.fromMm, r.toMm)) - 1.5}
					{@const c = byWhen(desk.doc.runs.length > 1 ? (r.number - 1) / (desk.doc.runs.length - 1) : 0)}
					<g
						role="button"
						tabindex="0"
						aria-label="Run {r.number} on {j.name}, {r.fromMm} to {r.toMm} mm"
						aria-pressed={chosen(r.id)}
						class="cursor-pointer"
						onclick={() => select('run', r.id)}
						onkeydown={(e) => runKeys(e, r.id)}
						onfocus={() => edit === 'runs' && select('run', r.id)}
					>
						<rect
							x={a}
							y="3"
							width={Math.max(2, b - a)}
							height="19"
							fill={chosen(r.id) ? '#f0d792' : '#f6f7f8'}
							stroke={chosen(r.id) ? '#192026' : c}
							stroke-width={chosen(r.id) ? 2 : 1}
						/>
						<path
							d={r.toMm > r.fromMm ? `M${a + 4} 18H${b - 4}m-5 -3l5 3l-5 3` : `M${b - 4} 18H${a + 4}m5 -3l-5 3l5 3`}
							stroke={c}
							stroke-width="2"
							fill="none"
						/>
						<text
							x={(a + b) / 2}
							y="13.5"
							font-size="11"
							font-weight="600"
							text-anchor="middle"
							class="fill-steel-900"
							font-family="JetBrains Mono Variable">{r.number}</text
						>
					</g>
				{/each}
			{/if}
			{#if show.runs && edit === 'runs' && desk.mayEdit}
				{#each runsOf(j).filter((r) => chosen(r.id)) as r (r.id)}
					{#each ['low', 'high'] as const as end (end)}
						{@const at = end === 'low' ? Math.min(r.fromMm, r.toMm) : Math.max(r.fromMm, r.toMm)}
						{@const range = boundRange(desk.doc.runs, r.id, end, l)}
						{#if range}<g
								role="slider"
								tabindex="0"
								aria-label="{end === 'low' ? 'Lower' : 'Upper'} bound of run {r.number}"
								aria-valuenow={at}
								aria-valuemin={range[0]}
								aria-valuemax={range[1]}
								aria-valuetext="{at} mm"
								class="cursor-ew-resize touch-none"
								onpointerdown={(e) => grabBound(e, r.id, end, at)}
								onpointermove={(e) => pullBound(e, j.id)}
								onpointerup={dropBound}
								onpointercancel={() => (pulled = undefined)}
								onkeydown={(e) => boundKeys(e, r.id, end, at, range)}
							>
								<rect x={x(at) - 8} y="0" width="16" height="26" fill="transparent" />
								<path d="M{x(at)} 1v25" stroke="#192026" stroke-width={pulled?.id === r.id && pulled.end === end ? 4 : 3} />
								{#if pulled?.id === r.id && pulled.end === end}<text
										x={x(at) + (end === 'low' ? -6 : 6)}
										y="40"
										font-size="12"
										font-weight="600"
										text-anchor={end === 'low' ? 'end' : 'start'}
										class="fill-steel-900"
										font-family="JetBrains Mono Variable">{at}</text
									>{/if}
							</g>{/if}
					{/each}
				{/each}
			{/if}
			{#if show.tacks}
				{#each desk.doc.tacks.filter((t) => t.joint === j.id) as t (t.id)}
					{@const at = drag?.id === t.id ? drag.at : t.stationMm}
					<g
						role="slider"
						tabindex="0"
						aria-label="Tack on {j.name}, stage {t.stage}"
						aria-valuenow={at}
						aria-valuemin={0}
						aria-valuemax={l}
						aria-valuetext="{at} mm"
						class={edit === 'tacks' ? 'cursor-ew-resize touch-none' : 'cursor-pointer'}
						onpointerdown={(e) => grab(e, t.id, j.id, t.stationMm)}
						onpointermove={pull}
						onpointerup={drop}
						onpointercancel={() => (drag = undefined)}
						onkeydown={(e) => tackKeys(e, t.id, j.id, t.stationMm)}
						onfocus={() => edit === 'tacks' && select('tack', t.id)}
					>
						<rect x={x(at) - 6} y="23" width="12" height="20" fill="transparent" />
						{#if t.stage === 1}<circle cx={x(at)} cy="33.5" r="5.5" fill={chosen(t.id) ? '#d9a441' : '#29323a'} />
						{:else}<circle cx={x(at)} cy="33.5" r="4" fill={chosen(t.id) ? '#d9a441' : '#fff'} stroke="#29323a" stroke-width="1.8" />{/if}
						{#if drag?.id === t.id || chosen(t.id)}<text
								x={x(at)}
								y="20"
								font-size="12"
								font-weight="600"
								text-anchor="middle"
								class="fill-steel-900"
								font-family="JetBrains Mono Variable">{at}</text
							>{/if}
					</g>
				{/each}
			{/if}
		</svg>
	{/each}
	{#if desk.seams.length === 0}<p class="px-4 py-6 text-steel-600">This plan has no seams.</p>{/if}
</div>
