<script lang="ts">
	import type { Schemas } from '$lib/api/client';
	import { mm, ofMm } from '$lib/shown.svelte';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Figure from '$lib/ui/Figure.svelte';
	import Pick from '$lib/ui/Pick.svelte';
	import { submits } from '$lib/ui/submits';
	import { fixed } from '$lib/units';

	interface Props {
		known?: Schemas['FasteningIn'];
		/** With thread, grade, socket, slots and how many, as the torque book has them. */
		wide: boolean;
		onsave: (row: Schemas['FasteningIn']) => Promise<void>;
		onclear?: () => Promise<void>;
	}
	let { known, wide, onsave, onclear }: Props = $props();
	// svelte-ignore state_referenced_locally
	const was: Schemas['FasteningIn'] = known ?? { source: '', page: '', on: '', thread: '', grade: '' };
	let least = $state<number | null>(was.least_nm ?? null);
	let most = $state<number | null>(was.most_nm ?? null);
	let source = $state(was.source ?? '');
	let page = $state(was.page ?? '');
	let thread = $state(was.thread ?? '');
	let grade = $state(was.grade ?? '');
	let socket = $state<number | null>(ofMm(was.socket_mm));
	let slots = $state<number | null>(was.slots ?? null);
	let holes = $state<number | null>(was.holes ?? null);
	let count = $state<number | null>(was.count ?? null);
	let once = $state(was.one_time == null ? '' : was.one_time ? 'yes' : 'no');

	/** The day that a torque was written down: kept as long as it is the same torque from the same place. */
	const on = () => {
		const same = least === was.least_nm && most === (was.most_nm ?? null) && source === (was.source ?? '');
		if (least === null) return '';
		return same && was.on ? was.on : new Date().toISOString().slice(0, 10);
	};
	const row = (): Schemas['FasteningIn'] => ({
		...was,
		least_nm: least,
		most_nm: most,
		source,
		page,
		on: on(),
		thread,
		grade,
		socket_mm: mm(socket),
		slots,
		holes,
		count,
		one_time: once === '' ? null : once === 'yes'
	});
</script>

<form class="grid gap-3" onsubmit={submits(() => onsave(row()))}>
	<div class="grid gap-3 sm:grid-cols-2">
		<Figure label="Torque, or the least of a range" bind:value={least} of="torque" above={0} />
		<Figure label="The most of a range" bind:value={most} of="torque" above={0} />
	</div>
	<Choice
		label="Where it comes from"
		options={session.reference?.fastening_sources ?? []}
		bind:value={source}
		row
	/>
	<Field label="Page, or who told it" bind:value={page} />
	{#if wide}
		<div class="grid gap-3 sm:grid-cols-3">
			<Field label="Thread, as M12×1.5" bind:value={thread} />
			<Pick
				label="Grade"
				options={[
					{ key: '', words: 'Not known' },
					...(session.reference?.grades ?? []).map((key) => ({ key, words: key }))
				]}
				bind:value={grade}
			/>
			<Figure label="Socket across flats" bind:value={socket} of="length" above={0} />
			<Figure label="Slots of its castle" bind:value={slots} unit={fixed('', 0)} least={1} />
			<Figure label="Ends of its hole" bind:value={holes} unit={fixed('', 0)} least={1} />
			<Figure label="How many there are" bind:value={count} unit={fixed('', 0)} least={1} />
		</div>
		<Choice
			label="Used once"
			options={[
				{ key: '', words: 'Not known' },
				{ key: 'yes', words: 'Used once' },
				{ key: 'no', words: 'Used again' }
			]}
			bind:value={once}
			row
		/>
	{/if}
	<div class="flex flex-wrap gap-3">
		<Button type="submit" look="main">Keep it</Button>
		{#if onclear && known}<Button look="quiet" onclick={() => void onclear()}>Clear it</Button>{/if}
	</div>
</form>
