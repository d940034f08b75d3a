<script lang="ts">
	/** The pages of the Order stage. */
	import { page } from '$app/state';
	let { jobId }: { jobId: string } = $props();
	const tabs = [
		{ slug: '', name: 'Edit' },
		{ slug: '/search', name: 'Search' },
		{ slug: '/come-true', name: 'Come true' },
		{ slug: '/watch', name: 'Watch it weld' },
		{ slug: '/estimate', name: 'Estimate' }
	];
</script>

<nav class="flex flex-wrap gap-x-1 border-b border-steel-300 bg-steel-100 px-4 pt-1.5" aria-label="Order pages">
	{#each tabs as t (t.slug)}
		{@const href = `/jobs/${jobId}/order${t.slug}`}
		{@const on = page.url.pathname === href}
		<a
			{href}
			aria-current={on ? 'page' : undefined}
			class="border-b-4 px-3 pt-1 pb-1.5 text-sm {on
				? 'border-straw-400 font-semibold text-steel-900'
				: 'border-transparent text-steel-700 hover:border-steel-300'}">{t.name}</a
		>
	{/each}
</nav>
