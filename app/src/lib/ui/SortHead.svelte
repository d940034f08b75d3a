<script lang="ts" generics="Row">
	/** A table's head that sorts by its column; stays in sight while the rows go by. */
	import type { Sorting } from './sorting.svelte';

	interface Props {
		sorting: Sorting<Row>;
		column: string;
		label: string;
		/** paddings and width, as the table has them */
		class?: string;
		toRight?: boolean;
	}
	let { sorting, column, label, class: own = '', toRight = false }: Props = $props();
	const how = $derived(sorting.how(column));
</script>

<th scope="col" class="sticky top-0 z-1 bg-white font-medium {own} {toRight ? 'text-right' : 'text-left'}" aria-sort={how}>
	<button
		type="button"
		class="rounded-sm {toRight ? 'text-right' : 'text-left'} underline-offset-4 hover:underline"
		onclick={() => sorting.turn(column)}
		>{label}<span aria-hidden="true" class="ml-1 {how === 'none' ? 'text-steel-400' : 'text-steel-900'}"
			>{how === 'ascending' ? '↑' : how === 'descending' ? '↓' : '↕'}</span
		></button
	>
</th>
