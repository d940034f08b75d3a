<script lang="ts">
	/** What stands at the piece and what it reads now; a probe's value is logged with a press. */
	import { deviceName, STALE_MS, type DeviceWatch } from './devices.svelte';

	interface Props {
		watch: DeviceWatch;
		clock: number;
		/** what an arc was taken for */
		said: string;
		/** a value of the metal has a use at this step */
		mayLog: boolean;
		onclear(): void;
		onmetal(metalC: number, instrument: string): void;
	}
	let { watch, clock, said, mayLog, onclear, onmetal }: Props = $props();
	const isNow = (heardAt: number) => clock - heardAt < STALE_MS;
	const probe = $derived(watch.newest.probe);
	const oxygen = $derived(watch.newest.oxygen);
	const arc = $derived(watch.newest.arc);
	const silent = $derived(watch.devices.filter((d) => d.kind !== 'gauge' && d.kind !== 'switch' && !isNow(watch.newest[d.kind]?.heardAt ?? 0)));
</script>

<div class="border-t border-steel-300 px-3 py-1 sm:px-5 sm:text-lg" role="group" aria-label="Devices">
	<p class="flex flex-wrap items-center gap-x-5 gap-y-1">
		{#if probe && isNow(probe.heardAt)}
			<span
				>{deviceName(probe.device)}: <span class="tab font-semibold">{probe.reading.metalC} °C</span>
				{#if mayLog}<button
						type="button"
						class="ml-2 min-h-14 rounded-sm border-2 border-steel-500 px-4"
						onclick={() => onmetal(probe.reading.metalC!, deviceName(probe.device))}>Log this reading</button
					>{/if}</span
			>
		{/if}
		{#if oxygen && isNow(oxygen.heardAt)}<span
				>{deviceName(oxygen.device)}: <span class="tab font-semibold">{oxygen.reading.oxygenPct} % oxygen</span></span
			>{/if}
		{#if arc && isNow(arc.heardAt)}<span
				>{deviceName(arc.device)}:
				<span class="tab font-semibold"
					>{watch.isBurning ? `arc burns${arc.reading.ampsA === undefined ? '' : `, ${arc.reading.ampsA} A`}` : 'no arc'}</span
				></span
			>{/if}
		{#each silent as d (d.id)}<span class="text-steel-600">{deviceName(d)}: not heard</span>{/each}
	</p>
	<div role="status">
		{#if said}<p class="flex items-center gap-2 border-l-4 border-straw-600 bg-straw-50 pl-2">
				<span class="flex-1">{said}</span><button type="button" class="min-h-14 px-3 text-primary-700 underline" onclick={onclear}>Seen</button>
			</p>{/if}
	</div>
</div>
