<script lang="ts">
	import { Square, Timer } from '@lucide/svelte';
	import { celsiusOf, mmOf, unitLabel } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Field from '$lib/ui/Field.svelte';
	import { typed } from '$lib/units';
	import { useCase } from './case.svelte';

	interface Props {
		/** Which figures: a hub's heat beside its mate's, seconds to rest beside its mate's, movement at the tyre. */
		entry: 'heat' | 'seconds' | 'lever' | string;
		hub: string;
		onlog: (value: Record<string, unknown>, said: string) => Promise<void>;
	}
	let { entry, hub, onlog }: Props = $props();
	const held = useCase();
	let own = $state('');
	let mate = $state('');
	let wrong = $state('');
	let started = $state<number | null>(null);
	const labels = $derived(
		{
			heat: ['Near the cap', 'Its mate, or the air', unitLabel('temperature')],
			seconds: ['Seconds to rest', 'Its mate’s', 's'],
			lever: ['Movement at the tyre', '', unitLabel('length')]
		}[entry] ?? ['', '', '']
	);

	/** One pad for both: start when the wheel is let go, stop when it stands. */
	function clock() {
		if (started === null) started = performance.now();
		else {
			own = ((performance.now() - started) / 1000).toFixed(1);
			started = null;
		}
	}

	async function log() {
		const [first, second] = [typed(own), typed(mate)];
		const fine = Number.isFinite(first) && (entry === 'lever' || Number.isFinite(second));
		wrong = fine ? '' : 'Give figures, such as 41.5.';
		if (!fine) return;
		const values: Record<string, Record<string, unknown>> = {
			heat: { temp_c: celsiusOf(first), mate_c: celsiusOf(second) },
			seconds: { seconds: first, mate_seconds: second },
			lever: { movement_mm: mmOf(first) }
		};
		await onlog(values[entry] ?? {}, `${own} ${labels[2]}`);
		own = mate = '';
	}
</script>

<form
	class="plate grid gap-3"
	onsubmit={(event) => {
		event.preventDefault();
		void log();
	}}
>
	<div class="grid gap-3 sm:grid-cols-2">
		<Field label="{labels[0]}, {hub}" bind:value={own} unit={labels[2]} numeric big {wrong} />
		{#if labels[1]}<Field label={labels[1]} bind:value={mate} unit={labels[2]} numeric big />{/if}
	</div>
	<div class="flex flex-wrap gap-3">
		<Button type="submit" look="main" disabled={held.closed}>Log the figures</Button>
		{#if entry === 'seconds'}
			<Button onclick={clock}
				>{#if started === null}<Timer aria-hidden="true" />Let go: start{:else}<Square aria-hidden="true" />It
					stands: stop{/if}</Button
			>
		{/if}
	</div>
</form>
