<script lang="ts">
	/** The two sheets from above while the arc goes by: temperature coloured, the gap between the edges as many times wider as is said. */
	import { interpolateOrRd } from 'd3-scale-chromatic';
	import type { Watched } from '$core/hot/watch';
	import { length } from '$lib/units';

	interface Props {
		watched: Watched;
		/** which picture */
		at: number;
		/** mm on each side of the seam that are shown */
		sideMm?: number;
		unit: 'mm' | 'in';
	}
	let { watched, at, sideMm = 45, unit }: Props = $props();
	const WIDTH = 720;
	const HEIGHT = 250;
	const LEFT = 14;
	/** °C at the ends of the scale, and the tint of stainless */
	const TOP_C = 1600;
	const TINT_C = 300;
	let canvas = $state<HTMLCanvasElement>();
	const picture = $derived(watched.film[Math.min(at, watched.film.length - 1)]);
	const along = $derived((WIDTH - 2 * LEFT) / watched.lengthMm);
	const across = $derived(Math.min((HEIGHT - 30) / 2 / sideMm, along * 3));
	/** the widest gap of the whole film is drawn some 26 pixels wide */
	const times = $derived.by(() => {
		const widest = Math.max(...watched.film.map((p) => Math.max(...p.gap)), 0.02);
		const raw = 26 / (widest * across);
		const round = 10 ** Math.floor(Math.log10(raw));
		return Math.max(1, Math.floor(raw / round) * round);
	});
	const shown = $derived.by(() => {
		const rows: { j: number; side: 1 | -1; y: number }[] = [];
		watched.y.forEach((y, j) => {
			if (Math.abs(y) > sideMm * 1.3) return;
			const isSecond = j < watched.seamRow;
			rows.push({ j, side: isSecond ? -1 : 1, y });
		});
		return rows;
	});
	const colour = (c: number) => interpolateOrRd(Math.min(1, Math.max(0, (c - 20) / (TOP_C - 20))));

	function draw(ctx: CanvasRenderingContext2D) {
		const { x, y } = watched;
		const isMirrored = watched.seamRow === 0;
		const ny = y.length;
		ctx.fillStyle = '#f4f6f7';
		ctx.fillRect(0, 0, WIDTH, HEIGHT);
		const middle = HEIGHT / 2 - 6;
		// the gap alone is drawn wider than it is, half of it to each sheet: everything else would fold over itself
		const place = (i: number, j: number, mirror: boolean): [number, number] => {
			const isFirst = j >= watched.seamRow;
			const up = y[j] * across + ((isFirst ? 1 : -1) * picture.gap[i] * across * times) / 2;
			return [LEFT + x[i] * along, mirror ? middle - up : middle + up];
		};
		/** one cell, cut in four by four where it is much hotter at one corner than at another: colours go straight between its corners */
		const cell = (i: number, p: number, q: number, mirror: boolean) => {
			const corners = [place(i, p, mirror), place(i + 1, p, mirror), place(i, q, mirror), place(i + 1, q, mirror)];
			const c = [i * ny + p, (i + 1) * ny + p, i * ny + q, (i + 1) * ny + q].map((n) => picture.temperature[n]);
			const cuts = Math.max(...c) - Math.min(...c) > 60 ? 4 : 1;
			const between = (v: readonly number[], a: number, b: number) => (v[0] * (1 - a) + v[1] * a) * (1 - b) + (v[2] * (1 - a) + v[3] * a) * b;
			const xs = corners.map((k) => k[0]);
			const ys = corners.map((k) => k[1]);
			for (let a = 0; a < cuts; a++)
				for (let b = 0; b < cuts; b++) {
					ctx.fillStyle = colour(between(c, (a + 0.5) / cuts, (b + 0.5) / cuts));
					ctx.strokeStyle = ctx.fillStyle;
					ctx.beginPath();
					for (const [u, v] of [
						[a, b],
						[a + 1, b],
						[a + 1, b + 1],
						[a, b + 1]
					])
						ctx.lineTo(between(xs, u / cuts, v / cuts), between(ys, u / cuts, v / cuts));
					ctx.closePath();
					ctx.fill();
					ctx.stroke();
				}
		};
		const sheet = (rows: { j: number }[], mirror: boolean) => {
			for (let i = 0; i + 1 < x.length; i++) for (let r = 0; r + 1 < rows.length; r++) cell(i, rows[r].j, rows[r + 1].j, mirror);
		};
		const first = shown.filter((r) => r.side === 1);
		const second = shown.filter((r) => r.side === -1);
		sheet(first, false);
		sheet(isMirrored ? first : second, isMirrored);
		tintLine(ctx, first, place, false);
		tintLine(ctx, isMirrored ? first : [...second].reverse(), place, isMirrored);
		const seam = first[0].j;
		const edge = (mirror: boolean, j: number) => {
			ctx.strokeStyle = '#29323a';
			ctx.lineWidth = 1.2;
			ctx.beginPath();
			for (let i = 0; i < x.length; i++) ctx.lineTo(...place(i, j, mirror));
			ctx.stroke();
			ctx.lineWidth = 1;
		};
		edge(false, seam);
		edge(isMirrored, isMirrored ? seam : seam - 1);
		for (const t of watched.tacks) {
			const i = x.reduce((best, v, k) => (Math.abs(v - t.atMm) < Math.abs(x[best] - t.atMm) ? k : best), 0);
			const [px, py] = place(i, seam, false);
			// melted: open ring; holding: filled
			ctx.beginPath();
			ctx.arc(px, (py + place(i, isMirrored ? seam : seam - 1, isMirrored)[1]) / 2, 4.5, 0, 7);
			ctx.fillStyle = picture.state[i] === 1 ? '#f4f6f7' : '#2a5d86';
			ctx.strokeStyle = '#29323a';
			ctx.fill();
			ctx.stroke();
		}
		if (picture.arcMm !== null) {
			const px = LEFT + picture.arcMm * along;
			ctx.strokeStyle = '#29323a';
			ctx.lineWidth = 2;
			ctx.beginPath();
			ctx.moveTo(px, 4);
			ctx.lineTo(px, middle - 22);
			ctx.moveTo(px - 5, middle - 30);
			ctx.lineTo(px, middle - 22);
			ctx.lineTo(px + 5, middle - 30);
			ctx.stroke();
			ctx.lineWidth = 1;
		}
		ctx.fillStyle = '#29323a';
		ctx.font = "12px 'IBM Plex Sans', sans-serif";
		ctx.fillText('0', LEFT, HEIGHT - 3);
		const end = length(watched.lengthMm, unit, 0);
		ctx.fillText(end, WIDTH - LEFT - ctx.measureText(end).width, HEIGHT - 3);
	}
	/** where the metal has just the temperature of the first tint */
	function tintLine(
		ctx: CanvasRenderingContext2D,
		rows: { j: number }[],
		place: (i: number, j: number, m: boolean) => [number, number],
		mirror: boolean
	) {
		const ny = watched.y.length;
		ctx.fillStyle = '#15806b';
		for (let i = 0; i < watched.x.length; i++)
			for (let r = 0; r + 1 < rows.length; r++) {
				const [a, b] = [picture.temperature[i * ny + rows[r].j], picture.temperature[i * ny + rows[r + 1].j]];
				if (!(a > TINT_C && b <= TINT_C)) continue;
				const [p, q] = [place(i, rows[r].j, mirror), place(i, rows[r + 1].j, mirror)];
				const f = (a - TINT_C) / (a - b);
				ctx.fillRect(p[0] + f * (q[0] - p[0]) - 1, p[1] + f * (q[1] - p[1]) - 1, 2.5, 2.5);
			}
	}
	$effect(() => {
		const ctx = canvas?.getContext('2d');
		if (ctx && picture) draw(ctx);
	});
	const hottest = $derived(picture ? Math.max(...picture.temperature) : 0);
	const widest = $derived(picture ? Math.max(...picture.gap) : 0);
	const scale = Array.from({ length: 24 }, (_, i) => 20 + ((TOP_C - 20) * i) / 23);
</script>

<figure class="m-0">
	<div
		role="img"
		aria-label="The two sheets from above after {picture?.s.toFixed(0)} s: {picture?.arcMm === null
			? 'no arc burns'
			: `the arc at ${length(picture?.arcMm ?? 0, unit, 0)}`}, hottest {hottest.toFixed(0)} °C, widest gap {length(widest, unit)}"
	>
		<canvas bind:this={canvas} width={WIDTH} height={HEIGHT} class="w-full border border-steel-300" aria-hidden="true"></canvas>
	</div>
	<figcaption class="tab mt-1 flex flex-wrap items-center gap-x-4 gap-y-1 text-[13px] text-steel-700">
		<span>{picture?.s.toFixed(0)} s</span>
		<span>{picture?.arcMm === null || !picture ? 'no arc' : `arc at ${length(picture.arcMm, unit, 0)}`}</span>
		<span>hottest {hottest.toFixed(0)} °C</span>
		<span>gap drawn {times} times as wide</span>
		<span class="flex items-center gap-1"
			>20<span class="flex h-3 w-28" aria-hidden="true"
				>{#each scale as c (c)}<span class="h-3 flex-1" style:background={colour(c)}></span>{/each}</span
			>{TOP_C}
			°C</span
		>
		<span class="flex items-center gap-1"
			><span class="h-2 w-4" style:background="#15806b" aria-hidden="true"></span>{TINT_C} °C{watched.isTinted ? ', first tint' : ''}</span
		>
	</figcaption>
</figure>
