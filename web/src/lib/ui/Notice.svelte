<script lang="ts">
	import { Info, OctagonX, TriangleAlert } from '@lucide/svelte';
	import type { Snippet } from 'svelte';

	interface Props {
		children: Snippet;
		/** stop: cannot go on; warn: with care; note: to know. */
		level?: 'stop' | 'warn' | 'note';
	}
	let { children, level = 'note' }: Props = $props();
	const looks = {
		stop: { icon: OctagonX, word: 'Stop', class: 'border-oxide bg-oxide-wash' },
		warn: { icon: TriangleAlert, word: 'Careful', class: 'border-ochre bg-ochre-wash' },
		note: { icon: Info, word: 'Note', class: 'border-faded bg-plate' }
	};
	const look = $derived(looks[level]);
	const Icon = $derived(look.icon);
</script>

<div
	class="flex gap-3 rounded-sm border border-l-4 p-3 {look.class}"
	role={level === 'stop' ? 'alert' : 'status'}
>
	<Icon class="mt-0.5 shrink-0" aria-hidden="true" />
	<div><span class="font-semibold">{look.word}.</span> {@render children()}</div>
</div>
