<script lang="ts">
	/** One seam watched while it is welded, as planned and otherwise; and how few tacks would hold it. */
	import { onDestroy } from 'svelte';
	import { evenTacks, TACK_MM, type HotChange } from '$core/hot/ofPlan';
	import { saidOf, type TackTrial, type Watched } from '$core/hot/watch';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import { HotClient } from '$lib/hot/client';
	import SeamFilm from '$lib/hot/SeamFilm.svelte';
	import OrderTabs from '$lib/order/OrderTabs.svelte';
	import { axis } from '$lib/ui/chart';
	import ChartBox from '$lib/ui/ChartBox.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { length } from '$lib/units';
	import { Button } from 'flowbite-svelte';

	let { data } = $props();
	const desk = getDesk();
	const unit = $derived(data.person?.units ?? 'mm');
	const client = new HotClient();
	onDestroy(() => client.end());

	const OTHERWISE = {
		none: { name: 'nothing beside it', change: () => undefined },
		one: { name: 'in one run', change: () => ({ runs: 'one' as const }) },
		turned: { name: 'from the other ends', change: () => ({ isTurned: true }) },
		back3: { name: 'back-stepped in three', change: () => ({ runs: 3 }) },
		back6: { name: 'back-stepped in six', change: () => ({ runs: 6 }) },
		ends: { name: 'tacked at both ends only', change: (L: number) => ({ tacks: evenTacks(L, 0) }) },
		every75: { name: 'tacked every 75 mm (3 in)', change: (L: number) => ({ tacks: evenTacks(L, 75) }) },
		every20: { name: 'tacked every 20 mm (0.8 in)', change: (L: number) => ({ tacks: evenTacks(L, 20) }) },
		less: { name: 'with 0.8 of the heat', change: () => ({ heat: 0.8 }) },
		more: { name: 'with 1.25 times the heat', change: () => ({ heat: 1.25 }) },
		noBar: { name: 'without its bar', change: () => ({ noBar: true }) }
	} satisfies Record<string, { name: string; change: (L: number) => HotChange | undefined }>;
	type Otherwise = keyof typeof OTHERWISE;

	const picked = $derived(desk.selection?.kind === 'joint' ? desk.selection.id : undefined);
	const joint = $derived(picked ?? desk.seams[0]?.id ?? '');
	const name = $derived(desk.doc.joints.find((j) => j.id === joint)?.name ?? '');
	const seamLength = $derived(desk.geometry?.seams.find((s) => s.joint === joint)?.lengthMm ?? 0);
	let otherwise = $state<Otherwise>('none');

	interface Seen {
		doc: typeof desk.doc;
		joint: string;
		name: string;
		title: string;
		watched: Watched;
	}
	let seen = $state.raw<Seen[]>([]);
	let trials = $state.raw<{ doc: typeof desk.doc; joint: string; name: string; list: TackTrial[] } | undefined>();
	let busy = $state<number | undefined>();
	let message = $state('');
	let share = $state(0);
	let isPlaying = $state(false);
	let asked = 0;

	async function watch() {
		const mine = ++asked;
		client.end();
		const doc = desk.doc;
		const [which, title] = [joint, name];
		const change = OTHERWISE[otherwise].change(seamLength);
		const asks: [string, HotChange][] = [['as planned', {}], ...(change ? [[OTHERWISE[otherwise].name, change] as [string, HotChange]] : [])];
		busy = 0;
		message = '';
		seen = [];
		const plan = $state.snapshot(doc) as typeof doc;
		for (const [i, [title2, how]] of asks.entries()) {
			const out = await client.watch(plan, which, how, (p) => mine === asked && (busy = (i + p) / asks.length));
			if (mine !== asked || !out) break;
			if (!out.ok) {
				message = out.message;
				break;
			}
			seen = [...seen, { doc, joint: which, name: title, title: title2, watched: out.data }];
		}
		if (mine !== asked) return;
		busy = undefined;
		share = 0;
		isPlaying = seen.length > 0;
	}
	async function advise() {
		const mine = ++asked;
		client.end();
		const doc = desk.doc;
		busy = 0;
		message = '';
		const which = joint;
		trials = { doc, joint, name, list: [] };
		const out = await client.tacks(
			$state.snapshot(doc) as typeof doc,
			which,
			(t) => mine === asked && trials && (trials = { ...trials, list: [...trials.list, t] }),
			(p) => mine === asked && (busy = p)
		);
		if (mine !== asked) return;
		busy = undefined;
		if (out && !out.ok) {
			message = out.message;
			trials = undefined;
		}
	}
	const spacing = (t: TackTrial) => (t.spacingMm ? `every ${length(t.spacingMm, unit, 0)} at most` : 'both ends');
	function stop() {
		asked++;
		client.end();
		busy = undefined;
	}
	/** The trial's tacks in place of the seam's own: a planner's change like any other, to be undone like any other. */
	function take(t: TackTrial) {
		const at = trials!.joint;
		desk.change(`tacks of ${trials!.name}: ${spacing(t)}`, (d) => {
			const own = d.tacks.filter((x) => x.joint === at);
			const first = d.tacks.findIndex((x) => x.joint === at);
			// as long as they were tried, otherwise like the seam's own
			const like = { ...(own[0] ?? { stage: 2, fusionOnly: true }), lengthMm: TACK_MM };
			const made = t.tacks.map((stationMm, i) => ({ ...like, id: `t-${at}-hot-${i}`, joint: at, stationMm: Math.round(stationMm * 10) / 10 }));
			const rest = d.tacks.filter((x) => x.joint !== at);
			const before = first < 0 ? rest.length : d.tacks.slice(0, first).filter((x) => x.joint !== at).length;
			d.tacks = [...rest.slice(0, before), ...made, ...rest.slice(before)];
		});
	}

	// a film lasts some ten seconds, however long the weld
	$effect(() => {
		if (!isPlaying) return;
		let last = performance.now();
		let frame = requestAnimationFrame(function on(now) {
			share = Math.min(1, share + (now - last) / 10_000);
			last = now;
			if (share >= 1) isPlaying = false;
			else frame = requestAnimationFrame(on);
		});
		return () => cancelAnimationFrame(frame);
	});
	const at = (w: Watched) => Math.round(share * (w.film.length - 1));
	const isOld = $derived(seen.length > 0 && (seen[0].doc !== desk.doc || seen[0].joint !== joint));
	const TONES = ['#2a5d86', '#b0693c'];
	const scaleOf = (mm: number) => (unit === 'in' ? mm / 25.4 : mm);
	const gapLines = $derived(
		seen.flatMap((s, i) => {
			const runs = [...new Set(s.watched.ahead.map((a) => a.run))];
			return runs.map((run) => ({
				label: s.title,
				data: s.watched.ahead.filter((a) => a.run === run).map((a) => ({ x: scaleOf(a.arcMm), y: scaleOf(a.gapMm) })),
				showLine: true,
				pointRadius: 0,
				borderColor: TONES[i],
				borderDash: i ? [5, 3] : [],
				borderWidth: 2
			}));
		})
	);
	const limitLine = $derived(
		seen.length
			? [
					{
						label: 'limit',
						data: [0, seen[0].watched.lengthMm].map((x) => ({ x: scaleOf(x), y: scaleOf(seen[0].watched.gapLimitMm) })),
						showLine: true,
						pointRadius: 0,
						borderColor: '#29323a',
						borderDash: [2, 4],
						borderWidth: 1
					}
				]
			: []
	);
	const stationLines = (of: (w: Watched) => [Float64Array, Float64Array], scale: (v: number) => number) =>
		seen.map((s, i) => {
			const [x, y] = of(s.watched);
			return {
				label: s.title,
				data: Array.from(x, (v, k) => ({ x: scaleOf(v), y: scale(y[k]) })),
				showLine: true,
				pointRadius: 0,
				borderColor: TONES[i],
				borderDash: i ? [5, 3] : [],
				borderWidth: 2
			};
		});
	const closingLines = $derived(stationLines((w) => [w.stations.at, w.stations.closingMm], scaleOf));
	const forceLines = $derived(
		stationLines(
			(w) => [w.stations.middles, w.stations.forceN],
			(v) => v / 1000
		)
	);
	const small = $derived(unit === 'in' ? 'in' : 'mm');
</script>

<OrderTabs jobId={desk.jobId} />
<div class="flex min-h-0 flex-1">
	<main id="main" class="relative min-w-0 flex-1 overflow-y-auto bg-white px-4 py-3">
		<h2 class="text-[17px]">Watch it weld</h2>
		<p class="max-w-[80ch] text-sm text-steel-700">
			One seam, both sheets laid flat, the arc going along it: what opens ahead of it, what each tack holds, how it closes. Some seconds a seam.
		</p>
		{#if !desk.seams.length}
			<p class="mt-2 text-sm">This piece has no seam to weld. Add a joint under Fit-up.</p>
		{:else}
			<div class="mt-2 flex flex-wrap items-end gap-3">
				<div class="w-64">
					<Choice
						label="Seam"
						value={joint}
						items={desk.seams.map((j) => ({ value: j.id, name: j.name }))}
						onchange={(v) => (desk.selection = { kind: 'joint', id: v })}
					/>
				</div>
				<div class="w-64">
					<Choice
						label="Beside it"
						value={otherwise}
						items={Object.entries(OTHERWISE).map(([value, o]) => ({ value, name: o.name }))}
						onchange={(v) => (otherwise = v as Otherwise)}
					/>
				</div>
				{#if busy === undefined}
					<Button size="sm" onclick={watch}>Watch it weld</Button>
					<Button size="sm" color="alternative" onclick={advise}>How few tacks would hold it</Button>
				{:else}
					<span class="flex items-center gap-2 pb-1.5 text-sm"
						><progress class="h-2 w-40 accent-primary-600" max="1" value={busy} aria-label="Progress"></progress>
						<Button size="sm" color="alternative" onclick={stop}>Stop</Button></span
					>
				{/if}
			</div>
		{/if}
		{#if message}<div class="mt-2"><Notice kind="fault">{message}</Notice></div>{/if}
		{#if isOld}<div class="mt-2">
				<Notice kind="caution">What is shown is of {seen[0].name} in an older state of the plan, or another seam.</Notice>
			</div>{/if}
		{#if seen.length}
			<div class="mt-3 flex items-center gap-3">
				<Button size="xs" color="alternative" onclick={() => ((share = share >= 1 ? 0 : share), (isPlaying = !isPlaying))}
					>{isPlaying ? 'Pause' : 'Play'}</Button
				>
				<input
					type="range"
					class="w-full max-w-xl accent-primary-600"
					min="0"
					max="1"
					step="0.005"
					bind:value={share}
					oninput={() => (isPlaying = false)}
					aria-label="Place in the film, from the first arc to cold"
				/>
			</div>
			<div class="mt-2 grid gap-4 {seen.length > 1 ? 'xl:grid-cols-2' : ''}">
				{#each seen as s, i (s.title)}
					<section class="min-w-0 {seen.length === 1 ? 'max-w-[760px]' : ''}" aria-label="{s.name}, {s.title}">
						<h3 class="mb-1 text-[15px]">{s.name}, {s.title}</h3>
						<SeamFilm watched={s.watched} at={at(s.watched)} {unit} />
						<ul class="mt-2 list-disc pl-5 text-sm">
							{#each saidOf(s.watched, unit) as line (line)}<li>{line}</li>{/each}
						</ul>
						{#if !s.watched.isBalanced}<div class="mt-1">
								<Notice kind="caution">Some steps did not come into balance: take these figures as a direction only.</Notice>
							</div>{/if}
						{#if i === seen.length - 1}<p class="mt-1 text-[13px] text-steel-600">{s.watched.notes.join(' ')}</p>{/if}
					</section>
				{/each}
			</div>
			<div class="mt-4 grid gap-4 md:grid-cols-3">
				{#each [{ t: 'Gap ahead of the arc', y: small, d: [...gapLines, ...limitLine], note: 'by where the arc stands; dotted: the most it may (a tenth of the sheet; the wire where filler is fed)' }, { t: 'Closing when cold', y: small, d: closingLines, note: 'along the seam' }, { t: 'Pull when cold', y: 'kN', d: forceLines, note: 'along the seam; swings where runs meet' }] as c (c.t)}
					<figure class="m-0">
						<figcaption class="text-sm font-medium">{c.t} <span class="font-normal text-steel-600">{c.note}</span></figcaption>
						<div class="h-44">
							<ChartBox
								type="scatter"
								options={{ scales: { x: axis(small, 6, false), y: axis(c.y, 5, true) } }}
								data={{ datasets: c.d }}
								xMax={scaleOf(seen[0].watched.lengthMm)}
								label="{c.t}, {seen.map((s) => s.title).join(' and ')}"
							/>
						</div>
					</figure>
				{/each}
			</div>
			{#if seen.length > 1}<p class="text-[13px] text-steel-600">
					Whole line: {seen[0].title}. Broken line: {seen[1].title}.
				</p>{/if}
		{/if}
		{#if trials?.list.length}
			<h2 class="mt-5 text-[17px]">How few tacks would hold {trials.name}</h2>
			<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
			<div class="mt-1 overflow-x-auto" role="region" aria-label="Tacks tried" tabindex="0">
				<table class="border-collapse text-sm whitespace-nowrap">
					<thead
						><tr class="border-b-2 border-steel-700 text-right">
							<th scope="col" class="py-1 pr-4 text-left">Tacked</th><th scope="col" class="px-3">Tacks</th>
							<th scope="col" class="px-3">Gap ahead, at most</th><th scope="col" class="px-3">Allowed</th>
							<th scope="col" class="px-3">Hardest held</th><th scope="col" class="px-3">Most stretched</th><th scope="col" class="px-3 text-left"
								>So</th
							><th scope="col"><span class="sr-only">Take</span></th>
						</tr></thead
					>
					<tbody>
						{#each trials.list as t (t.spacingMm)}
							<tr class="border-b border-steel-200 text-right {t.isEnough ? 'bg-straw-50 font-semibold' : ''}">
								<th scope="row" class="py-1 pr-4 text-left font-normal">{spacing(t)}</th>
								<td class="tab px-3">{t.tacks.length}</td>
								<td class="tab px-3">{length(t.watched.gapRange[1], unit)}</td>
								<td class="tab px-3">{length(t.watched.gapLimitMm, unit)}</td>
								<td class="tab px-3">{Math.max(0, ...t.watched.tacks.map((k) => k.tensionMpa)).toFixed(0)} MPa</td>
								<td class="tab px-3">{(100 * Math.max(0, ...t.watched.tacks.map((k) => k.strain))).toFixed(1)} %</td>
								<td class="px-3 text-left"
									>{t.isEnough ? 'enough' : t.watched.gapRange[1] > t.watched.gapLimitMm ? 'opens ahead of the arc' : 'a tack may crack'}</td
								>
								<td class="py-0.5"
									>{#if desk.mayEdit && trials.doc === desk.doc}<Button size="xs" color="alternative" onclick={() => take(t)}>Use these</Button
										>{/if}</td
								>
							</tr>
						{/each}
					</tbody>
				</table>
			</div>
			<p class="mt-1 max-w-[80ch] text-[13px] text-steel-600">
				With the plan's runs, alone and flat, and the hot metal at its softest and stiffest. Light tacks at these stations; strength of a tack in a
				clumsy lift, and what locates the parts, are another matter.
			</p>
		{/if}
	</main>
</div>
