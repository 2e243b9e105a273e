<script lang="ts">
	import { small } from '$lib/language';
	import { decimal } from '$lib/numbers';
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { BookOpen, Download, NotebookText, Pencil, Route, Ruler, TrendingUp } from '@lucide/svelte';
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import CaseRow from '$lib/case/CaseRow.svelte';
	import ComingBack from '$lib/due/ComingBack.svelte';
	import { outbox } from '$lib/outbox/outbox.svelte';
	import Waits from '$lib/outbox/Waits.svelte';
	import { session } from '$lib/session.svelte';
	import { distance, inUnits, length } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Field from '$lib/ui/Field.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import WorkedList from '$lib/sums/WorkedList.svelte';
	import SoldOrGone from '$lib/vehicle/SoldOrGone.svelte';
	import VehicleForm from '$lib/vehicle/VehicleForm.svelte';
	import VehiclePlan from '$lib/vehicle/VehiclePlan.svelte';
	import { submits } from '$lib/ui/submits';

	let vehicle = $state.raw<Schemas['VehicleOut'] | null>(null);
	let chosen = $state('');
	let complaint = $state('');
	let editing = $state(false);
	let wrong = $state('');

	const path = $derived({ vehicle_id: page.params.id ?? '' });
	const hub = $derived(vehicle?.axles.flatMap((axle) => axle.hubs).find((row) => row.id === chosen));
	type Order = 'bpfo' | 'bpfi' | 'bsf' | 'ftf';
	const wording = $derived(session.reference?.wording);
	const design = $derived(session.reference?.designs.find((row) => row.key === hub?.design));

	let history = $state.raw<Schemas['CaseBrief'][]>([]);
	let worked = $state.raw<Schemas['WorkedOut'][]>([]);
	$effect(() => void load(path.vehicle_id));
	async function load(vehicle_id: string) {
		try {
			const params = { path: { vehicle_id } };
			const [found, cases, sums] = await Promise.all([
				ask(api.GET('/api/vehicles/{vehicle_id}', { params })),
				ask(api.GET('/api/vehicles/{vehicle_id}/cases', { params })),
				ask(api.GET('/api/vehicles/{vehicle_id}/worked', { params }))
			]);
			if (vehicle_id !== page.params.id) return; // another one was gone to meanwhile
			vehicle = found;
			history = cases;
			worked = sums;
			chosen ||= found.axles[0]?.hubs[0]?.id ?? '';
		} catch (error) {
			wrong = wordsOf(error);
		}
	}

	/** Made here, so that a double click opens one case. */
	const number = crypto.randomUUID();
	const opening = $derived(outbox.of(number));
	async function openCase() {
		try {
			const body = { id: number, vehicle: path.vehicle_id, complaint };
			const label = `A case of ${vehicle?.label ?? 'this vehicle'}`;
			const entry = {
				id: number,
				caseId: '',
				label,
				kind: 'write',
				method: 'POST',
				to: '/api/cases',
				body
			} as const;
			if ((await outbox.enter(entry)) === 'sent') await goto(`/cases/${number}`);
		} catch (error) {
			wrong = wordsOf(error);
		}
	}

	async function save(data: Schemas['VehicleIn'], set_aside: boolean) {
		const id = crypto.randomUUID();
		const [to, label] = [`/api/vehicles/${path.vehicle_id}`, `The correction of ${data.label}`];
		const after = outbox.writes(to).at(-1)?.id ?? null;
		const body = { ...data, change: id, revision: vehicle?.revision ?? 0, after, set_aside };
		await outbox.enter({ id, caseId: '', label, kind: 'write', method: 'PUT', to, body });
		editing = false;
		await load(path.vehicle_id);
	}
	async function reload() {
		await load(path.vehicle_id);
		editing = false;
	}
</script>

<svelte:head><title>{vehicle?.label ?? 'Vehicle'} · Hematite</title></svelte:head>

{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
<Waits entries={outbox.writes(`/api/vehicles/${path.vehicle_id}`)} what="A correction of this vehicle"
	>It is sent when the server is back.</Waits
>
{#if vehicle && editing}
	<h1 class="pb-4">Correct {vehicle.label}</h1>
	<VehicleForm {vehicle} onsave={save} onreload={reload} />
{:else if vehicle}
	<div class="grid gap-6 wide:grid-cols-[3fr_2fr]">
		<section class="grid content-start gap-4">
			<div class="flex flex-wrap items-center justify-between gap-3">
				<h1>{vehicle.label}{vehicle.plate ? `, ${vehicle.plate}` : ''}</h1>
				<div class="flex flex-wrap gap-2">
					<Button href="/vehicles/{vehicle.id}/trend"><TrendingUp aria-hidden="true" />Trend</Button>
					<Button href="/vehicles/{vehicle.id}/logbook"><NotebookText aria-hidden="true" />Logbook</Button>
					<Button href="/vehicles/{vehicle.id}/road"><Route aria-hidden="true" />For the road</Button>
					<Button href="/api/vehicles/{vehicle.id}/bundle" download
						><Download aria-hidden="true" />Take along</Button
					>
					<Button onclick={() => (editing = true)}><Pencil aria-hidden="true" />Correct</Button>
				</div>
			</div>
			<VehiclePlan {vehicle} selected={chosen} onselect={(id) => (chosen = id)} compact />
			<p>
				{#if vehicle.tyre}Tyre {vehicle.tyre},{/if}
				{#if vehicle.circumference_m}one wheel turn is about {decimal(vehicle.circumference_m, 2)} m of road.{:else}tyre
					size not known: give wheel turns instead of road speed when recording.{/if}
				{#if vehicle.age_years !== null}{vehicle.age_years} years old.{/if}
				{#if vehicle.distance_km !== null}{distance(vehicle.distance_km)} on these bearings.{/if}
				{#if vehicle.duty.length}Has been through: {vehicle.duty
						.map((key) => small(session.reference?.duties.find((row) => row.key === key)?.words ?? key))
						.join('; ')}.{/if}
			</p>
			{#if history.length}
				<section class="grid gap-2" aria-label="Its cases">
					<h2>Its cases</h2>
					<ul class="grid gap-2">
						{#each history as row (row.id)}<CaseRow {row} own />{/each}
					</ul>
				</section>
			{/if}
			{#if !session.mayNot('rule')}<SoldOrGone {vehicle} cases={history} onchange={reload} />{/if}
		</section>
		<div class="grid content-start gap-4">
			<form class="plate grid gap-3 border-l-oxide" onsubmit={submits(openCase)}>
				<h2>Open a case</h2>
				<Field
					label="What the driver says"
					bind:value={complaint}
					placeholder="Growl from 60 up, worse in right bends"
				/>
				{#if opening}
					<Waits entries={[opening]} what="The case">It is opened when the server is back.</Waits>
				{:else}
					<Button type="submit" look="main">Open a case</Button>
				{/if}
			</form>
			<ComingBack vehicle={vehicle.id} />
			{#if hub && design}
				<section class="plate grid gap-2" aria-label="Hub {hub.id}">
					<h2>Hub {hub.words} <span class="font-mono">{hub.id}</span></h2>
					<p>{design.label}.</p>
					<p>
						{wording?.adjusts[design.adjusts]}
						{wording?.repacks[String(design.repacks)]}
						The {hub.rotating_ring} ring turns with the wheel.
					</p>
					<p>
						Normal end play {length(hub.window_min_mm)} to {length(hub.window_max_mm)}.
						<span class="text-faded">{inUnits(hub.window_source)}.</span>
					</p>
					{#each hub.bearings?.filter((row) => row.designation) ?? [] as row (row.row)}
						<p><span class="text-faded">Bearing:</span> <span class="font-mono">{row.designation}</span></p>
					{/each}
					<div class="flex flex-wrap gap-2">
						<Button href="/vehicles/{vehicle.id}/bearings?hub={hub.id}"
							><Ruler aria-hidden="true" />Which bearing is it?</Button
						>
						<Button href="/vehicles/{vehicle.id}/book?hub={hub.id}"
							><BookOpen aria-hidden="true" />Torque book</Button
						>
					</div>
					{#each hub.orders as row (row.row)}
						<table class="w-full">
							<caption class="pt-2 text-left text-faded">Strikes per wheel turn, {row.row} row</caption>
							<tbody>
								{#each Object.entries(wording?.orders ?? {}) as [key, words] (key)}
									<tr>
										<td>{words}</td>
										<td class="text-right font-mono">{decimal(row[key as Order], 3)}</td>
									</tr>
								{/each}
							</tbody>
						</table>
					{:else}
						<p class="text-faded">
							{hub.estimates.length
								? 'Its balls or rollers are not counted: orders are estimated, and a ring mark is searched for without them.'
								: 'No bearing geometry known: a ring mark is searched for without it.'}
						</p>
					{/each}
					<WorkedList rows={worked.filter((row) => row.hub === hub.id)} />
				</section>
			{/if}
		</div>
	</div>
{/if}
