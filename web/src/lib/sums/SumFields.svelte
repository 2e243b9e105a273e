<script lang="ts">
	import Choice from '$lib/ui/Choice.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Figure from '$lib/ui/Figure.svelte';
	import Pick from '$lib/ui/Pick.svelte';
	import Tick from '$lib/ui/Tick.svelte';
	import { written } from '$lib/shown.svelte';
	import { fixed } from '$lib/units';
	import type { ComponentProps } from 'svelte';
	import { asked, shown, type Field as Row } from './figures';
	import Stock from './Stock.svelte';

	interface Props {
		fields: Row[];
		values: Record<string, unknown>;
		onset: (key: string, value: unknown) => void;
	}
	let { fields, values, onset }: Props = $props();
	const PADS = 4; // more answers than these are picked from a list

	/** A figure asked in a unit that a person may have their own of, else in that unit itself. */
	const unitOf = (row: Row) => {
		const of = written(row.unit)?.of as ComponentProps<typeof Figure>['of'];
		return of ? { of } : { unit: fixed(row.unit, row.whole ? 0 : 1) };
	};
	const list = (key: string) => (values[key] as unknown[] | undefined) ?? [];
	function put(key: string, n: number, value: unknown) {
		const now = [...list(key)];
		while (now.length <= n) now.push(null);
		now[n] = value;
		onset(key, now);
	}
	function toggle(key: string, option: string) {
		const now = list(key);
		onset(key, now.includes(option) ? now.filter((one) => one !== option) : [...now, option]);
	}
</script>

<div class="grid gap-3 sm:grid-cols-2">
	{#each fields as row (row.key)}
		{#if row.kind === 'number'}
			<Figure
				label={row.label}
				bind:value={() => shown(values[row.key], row.unit), (si) => onset(row.key, asked(si, row.unit))}
				{...unitOf(row)}
			/>
		{:else if row.kind === 'text'}
			<Field
				label={row.label}
				bind:value={() => String(values[row.key] ?? ''), (text) => onset(row.key, text)}
				placeholder={row.hint}
			/>
		{:else if row.kind === 'tick'}
			<Tick label={row.label} bind:checked={() => Boolean(values[row.key]), (on) => onset(row.key, on)} />
		{:else if row.kind === 'choice' && row.options.length > PADS}
			<Pick
				label={row.label}
				options={row.options}
				bind:value={() => String(values[row.key] ?? ''), (key) => onset(row.key, key)}
			/>
		{:else if row.kind === 'choice'}
			<div class="sm:col-span-2">
				<p class="pb-1 text-faded">{row.label}</p>
				<Choice
					label={row.label}
					options={row.options}
					bind:value={() => String(values[row.key] ?? ''), (key) => onset(row.key, key)}
					row
				/>
			</div>
		{:else if row.kind === 'choices'}
			<fieldset class="grid gap-1 sm:col-span-2">
				<legend class="pb-1 text-faded">{row.label}</legend>
				{#each row.options as option (option.key)}
					<Tick
						label={option.words}
						bind:checked={() => list(row.key).includes(option.key), () => toggle(row.key, option.key)}
					/>
				{/each}
			</fieldset>
		{:else if row.kind === 'numbers'}
			<fieldset class="sm:col-span-2">
				<legend class="pb-1 text-faded">{row.label}</legend>
				<div class="grid grid-cols-3 gap-2">
					{#each Array.from({ length: row.count }, (_, n) => n) as n (n)}
						<Figure
							label={String(n + 1)}
							bind:value={
								() => shown(list(row.key)[n], row.unit), (si) => put(row.key, n, asked(si, row.unit))
							}
							{...unitOf(row)}
						/>
					{/each}
				</div>
			</fieldset>
		{:else if row.kind === 'stock'}
			<Stock
				label={row.label}
				rows={list(row.key) as { mm: number | null; count: number | null }[]}
				onset={(rows) => onset(row.key, rows)}
			/>
		{/if}
	{/each}
</div>
