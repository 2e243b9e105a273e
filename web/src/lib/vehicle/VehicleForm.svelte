<script lang="ts">
	import { Plus, Trash2 } from '@lucide/svelte';
	import { untrack } from 'svelte';
	import { Refused, wordsOf, type Schemas } from '$lib/api/client';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Figure from '$lib/ui/Figure.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Pick from '$lib/ui/Pick.svelte';
	import Tick from '$lib/ui/Tick.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import { inUnits, ofKm } from '$lib/shown.svelte';
	import { fixed } from '$lib/units';
	import { fromAxle, newAxle, newRow, ofKind, toVehicle, type AxleDraft, type HistoryDraft } from './draft';
	import { submits } from '$lib/ui/submits';

	interface Props {
		/** The vehicle to correct; a new one when absent. */
		vehicle?: Schemas['VehicleOut'];
		/** What a new one is, as far as its kind tells. */
		kind?: Schemas['KindOut'];
		/** Throws `Refused` where the server says no. `sure`: entries of another hub design may be set aside. */
		onsave: (data: Schemas['VehicleIn'], sure: boolean) => Promise<void>;
		/** Look at the vehicle as somebody else left it. */
		onreload?: () => void;
	}
	let { vehicle, kind, onsave, onreload }: Props = $props();

	// The form starts from the vehicle and is then the user's own.
	const start = untrack(() => vehicle);
	const begun = untrack(() => kind);
	let label = $state(start?.label ?? begun?.words ?? '');
	let plate = $state(start?.plate ?? '');
	let tyre = $state(start?.tyre ?? '');
	let axles = $state<AxleDraft[]>(
		start?.axles.map(fromAxle) ?? (begun ? ofKind(begun) : [newAxle('hub_unit', true), newAxle('hub_unit')])
	);
	let history = $state<HistoryDraft>({
		age: start?.age_years ?? null,
		distance: ofKm(start?.distance_km),
		duty: start?.duty ?? []
	});
	const tick = (key: string) =>
		(history.duty = history.duty.includes(key)
			? history.duty.filter((word) => word !== key)
			: [...history.duty, key]);
	let wrong = $state('');
	let code = $state('');
	let fields = $state<Record<string, string>>({});
	let busy = $state(false);

	const designs = $derived(
		(session.reference?.designs ?? []).map((design) => ({ key: design.key, words: design.label }))
	);
	const wheelOptions = [
		{ key: '1', words: 'One' },
		{ key: '2', words: 'Two' },
		{ key: '4', words: 'Four (duals)' }
	];

	async function save(sure = false) {
		busy = true;
		wrong = code = '';
		fields = {};
		try {
			await onsave(toVehicle(label.trim(), plate.trim(), tyre.trim(), axles, history, start), sure);
		} catch (error) {
			wrong = inUnits(wordsOf(error));
			if (error instanceof Refused) ({ fields, code } = error);
		} finally {
			busy = false;
		}
	}
</script>

<form class="grid gap-4" onsubmit={submits(save)}>
	<div class="plate grid gap-4 sm:grid-cols-3">
		<Field label="Name of the vehicle" bind:value={label} wrong={fields.label} placeholder="Bookmobile 2" />
		<Field label="Number plate" bind:value={plate} wrong={fields.plate} />
		<Field
			label="Tyre size from the sidewall"
			bind:value={tyre}
			wrong={fields.tyre}
			placeholder="205/55 R16"
		/>
	</div>
	{#if wrong}
		<Notice level="stop"
			>{wrong}
			<span class="flex flex-wrap gap-2 pt-2 empty:hidden">
				{#if code === 'another_design'}
					<Button onclick={() => save(true)}>Change it, and set those aside</Button>
				{:else if code === 'changed_meanwhile' && onreload}
					<Button onclick={onreload}>Look at it as it is now</Button>
				{/if}
			</span></Notice
		>
	{/if}
	{#if begun}<div><Button type="submit" look="main" disabled={busy}>Save vehicle</Button></div>{/if}
	<details class="grid gap-4" open={!begun}>
		<summary class="min-h-12 cursor-pointer py-2 text-lg font-semibold"
			>{begun ? 'Its axles and hubs, as usual for its kind' : 'Its axles and hubs'}</summary
		>
		<div class="grid gap-4 pt-2">
			{#each axles as axle, n (n)}
				<fieldset class="plate grid gap-4">
					<legend class="px-1 text-lg font-semibold">Axle {n + 1}{n === 0 ? ' (front)' : ''}</legend>
					{#if axle.kept}
						<p>The hubs of this axle differ from each other; they are kept as they are.</p>
					{:else}
						<div class="grid gap-4 sm:grid-cols-2">
							<Pick label="Hub design" options={designs} bind:value={axle.design} />
							<div>
								<p class="pb-1 text-faded">Wheels</p>
								<Choice label="Wheels on axle {n + 1}" options={wheelOptions} bind:value={axle.wheels} row />
							</div>
						</div>
					{/if}
					<div class="flex flex-wrap gap-6">
						<Tick label="Driven" bind:checked={axle.driven} />
						<Tick label="Steered" bind:checked={axle.steered} />
					</div>
					{#if !axle.kept}
						{#each axle.rows as row, k (k)}
							<div
								class="grid grid-cols-2 gap-3 border-t border-groove pt-3 sm:grid-cols-[1fr_1fr_1fr_1fr_auto]"
							>
								<Figure
									label="Balls or rollers, {row.row}"
									bind:value={row.elements}
									unit={fixed('')}
									above={0}
								/>
								<Figure label="Their diameter" bind:value={row.element} of="length" above={0} />
								<Figure label="Pitch diameter" bind:value={row.pitch} of="length" above={0} />
								<Figure
									label="Contact angle"
									bind:value={row.angle}
									unit={fixed('°', 1)}
									least={0}
									most={89}
								/>
								<div class="self-end">
									<Button onclick={() => axle.rows.splice(k, 1)}
										><Trash2 aria-hidden="true" /><span class="sr-only">Remove this row</span></Button
									>
								</div>
							</div>
						{/each}
						<details open={axle.least !== null || axle.most !== null}>
							<summary class="min-h-12 cursor-pointer py-2">Limits of end play from its own manual</summary>
							<div class="grid gap-3 pt-1 sm:grid-cols-3">
								<Figure label="Least" bind:value={axle.least} of="length" least={0} />
								<Figure label="Most" bind:value={axle.most} of="length" above={0} />
								<Field
									label="Where from"
									bind:value={() => axle.source ?? '', (text) => (axle.source = text)}
									placeholder="manual, page 41"
								/>
							</div>
						</details>
						<div class="flex flex-wrap gap-3">
							{#if axle.rows.length < 4}
								<Button onclick={() => axle.rows.push(newRow(axle.rows.length))}
									><Plus aria-hidden="true" />Bearing row (if known)</Button
								>
							{/if}
							{#if axles.length > 1}
								<Button look="quiet" onclick={() => axles.splice(n, 1)}>Remove this axle</Button>
							{/if}
						</div>
					{/if}
				</fieldset>
			{/each}
			<fieldset class="plate grid gap-4">
				<legend class="px-1 text-lg font-semibold">What it has been through (if known)</legend>
				<div class="grid gap-4 sm:grid-cols-2">
					<Figure
						label="Age"
						bind:value={history.age}
						unit={fixed('years', 1)}
						least={0}
						wrong={fields.age_years}
					/>
					<Figure
						label="Distance on these bearings"
						bind:value={history.distance}
						of="distance"
						least={0}
						wrong={fields.distance_km}
					/>
				</div>
				<div class="grid gap-2 sm:grid-cols-2" role="group" aria-label="Duty">
					{#each session.reference?.duties ?? [] as duty (duty.key)}
						<Tick
							label={duty.words}
							bind:checked={() => history.duty.includes(duty.key), () => tick(duty.key)}
						/>
					{/each}
				</div>
			</fieldset>
			{#if axles.length < 8}
				<div>
					<Button onclick={() => axles.push(newAxle(axles.at(-1)?.design ?? 'hub_unit'))}
						><Plus aria-hidden="true" />Axle behind</Button
					>
				</div>
			{/if}
			{#if !begun}<Button type="submit" look="main" disabled={busy}>Save vehicle</Button>{/if}
		</div>
	</details>
</form>
