<script lang="ts">
	import { PROPOSE, STAGES, type StageFacts } from './stages';
	interface Props {
		job: string;
		current: string;
		facts: StageFacts;
		query?: string;
	}
	let { job, current, facts, query = '' }: Props = $props();
</script>

<nav class="w-[52px] shrink-0 bg-steel-200 py-2 sm:w-40" aria-label="Stages">
	<ol class="relative">
		<!-- the seam the stages are laid along -->
		<span class="absolute top-4 bottom-4 left-[25px] w-0.5 bg-steel-400" aria-hidden="true"></span>
		{#each STAGES as s, i (s.slug)}
			{@const here = s.slug === current}
			{@const needs = s.needs(facts)}
			<li>
				<a
					href="/jobs/{job}/{s.slug}{query}"
					aria-current={here ? 'page' : undefined}
					title={needs || s.name}
					class="relative flex items-center gap-3 py-[7px] pr-2 pl-4 text-[15px] {here
						? 'bg-white font-semibold text-steel-900'
						: 'text-steel-800 hover:bg-steel-100'}"
				>
					<span
						class="tab z-10 grid h-5 w-5 place-items-center rounded-full border-2 text-[10px] {s.done(facts)
							? 'border-steel-700 bg-steel-700 text-white'
							: 'border-steel-500 bg-steel-100 text-steel-700'} {here ? '!border-straw-400' : ''}"
						aria-hidden="true">{i + 1}</span
					>
					<span class="max-sm:sr-only">{s.name}</span>
				</a>
			</li>
		{/each}
	</ol>
	<a
		href="/jobs/{job}/{PROPOSE.slug}"
		aria-current={current === PROPOSE.slug ? 'page' : undefined}
		title={PROPOSE.name}
		class="mx-2 mt-3 block rounded-sm border border-steel-500 px-2 py-1.5 text-center text-sm {current === PROPOSE.slug
			? 'bg-white font-semibold text-steel-900'
			: 'bg-steel-100 text-steel-800 hover:bg-white'}"
		><span class="max-sm:sr-only">{PROPOSE.name}</span><span class="sm:hidden" aria-hidden="true">+</span></a
	>
</nav>
