<script lang="ts">
	import { AlarmClock, BellRing, Calendar, CalendarCheck, CalendarClock } from '@lucide/svelte';

	/** How a recheck stands: a shape and a word. */
	let { state, label }: { state: string; label: string } = $props();
	const shapes: Record<string, typeof Calendar> = {
		overdue: AlarmClock,
		due: BellRing,
		soon: CalendarClock,
		done: CalendarCheck
	};
	const Shape = $derived(shapes[state] ?? Calendar);
</script>

<span
	class="inline-flex items-center gap-1.5 {state === 'overdue' ? 'font-semibold text-oxide' : ''} {state ===
	'due'
		? 'font-semibold'
		: ''}"><Shape class="size-5 shrink-0" aria-hidden="true" />{label}</span
>
