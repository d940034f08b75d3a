<script lang="ts">
	/** The steps as a film or a strip of pictures, at a speed of choice. */
	import { evenly, recordFilm, stripOf } from '$lib/bench-view/film';
	import { download } from '$lib/download';
	import type BenchView from '$lib/bench-view/BenchView.svelte';

	interface Props {
		bench?: BenchView;
		labels: string[];
		name: string;
		/** ms a step */
		pace: number;
		onpace: (ms: number) => void;
		/** shows a step */
		show: (step: number) => void;
		/** while it is made one scale of colours holds for all of its pictures */
		onbusy: (busy: boolean) => void;
	}
	let { bench, labels, name, pace, onpace, show, onbusy }: Props = $props();
	let busy = $state<'film' | 'strip' | undefined>();
	let message = $state('');
	const PACES = [
		{ ms: 900, name: 'slow' },
		{ ms: 350, name: 'usual pace' },
		{ ms: 120, name: 'quick' }
	];
	/** pictures of a strip at most */
	const MOST = 9;
	/** until what is shown is on the canvas, ms */
	const DRAWN_MS = 260;
	const wait = (ms: number) => new Promise<void>((go) => setTimeout(go, ms));
	async function make(what: 'film' | 'strip', work: () => Promise<void>) {
		busy = what;
		onbusy(true);
		message = '';
		try {
			await work();
		} catch (e) {
			message = e instanceof Error ? e.message : String(e);
		}
		busy = undefined;
		onbusy(false);
	}
	const film = () =>
		make('film', async () => {
			const canvas = bench?.drawing();
			if (!canvas) return;
			const made = await recordFilm(canvas, async () => {
				for (let i = 0; i < labels.length; i++) {
					show(i);
					await wait(pace);
				}
			});
			download(made, `${name}-welding.webm`);
		});
	const strip = () =>
		make('strip', async () => {
			const stills = [];
			for (const i of evenly(labels.length, MOST)) {
				show(i);
				await wait(DRAWN_MS);
				const picture = bench?.still();
				if (picture) stills.push({ picture, label: labels[i] });
			}
			if (stills.length) download(await stripOf(stills), `${name}-welding.png`);
		});
	const button = 'min-h-8 rounded-sm border border-steel-400 px-2 text-sm disabled:text-steel-500';
</script>

<label class="sr-only" for="pace">How fast the steps go by</label>
<select id="pace" class="rounded-sm border-steel-400 py-1 text-sm" value={String(pace)} onchange={(e) => onpace(Number(e.currentTarget.value))}>
	{#each PACES as p (p.ms)}<option value={String(p.ms)}>{p.name}</option>{/each}
</select>
<button type="button" class={button} disabled={!!busy || labels.length < 2} onclick={film}>{busy === 'film' ? 'Recording…' : 'Film (WebM)'}</button>
<button type="button" class={button} disabled={!!busy || labels.length < 2} onclick={strip}
	>{busy === 'strip' ? 'Being drawn…' : 'Strip (PNG)'}</button
>
{#if message}<span class="text-plum-700" role="status">{message}</span>{/if}
