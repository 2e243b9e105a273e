<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { Accordion } from 'bits-ui';
	import { small } from '$lib/language';
	import { api, ask, wordsOf, type Schemas } from '$lib/api/client';
	import TorqueForm from '$lib/job/TorqueForm.svelte';
	import { outbox } from '$lib/outbox/outbox.svelte';
	import Waits from '$lib/outbox/Waits.svelte';
	import { session } from '$lib/session.svelte';
	import { torque } from '$lib/shown.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Pick from '$lib/ui/Pick.svelte';

	/** What is fitted at each hub and what its nuts and bolts are: written down once, read at every step. */
	const path = $derived({ vehicle_id: page.params.id ?? '' });
	let vehicle = $state.raw<Schemas['VehicleOut'] | null>(null);
	let others = $state.raw<{ id: string; label: string }[]>([]);
	let like = $state('');
	let wrong = $state('');
	let open = $state('');
	const hubs = $derived(vehicle?.axles.flatMap((axle) => axle.hubs) ?? []);
	const hub = $derived(hubs.find((row) => row.id === page.url.searchParams.get('hub')) ?? hubs[0]);
	const mate = $derived(hubs.find((row) => row.id === hub?.mate));
	const kinds = $derived(
		(hub?.torques ?? []).flatMap(
			(key) => session.reference?.fastenings.filter((one) => one.key === key) ?? []
		)
	);
	const waiting = $derived(outbox.writes(`/api/vehicles/${path.vehicle_id}/hubs/${hub?.id}/book`));

	$effect(() => void load(path.vehicle_id));
	$effect(() => outbox.onSent(() => void load(path.vehicle_id)));

	async function load(id: string) {
		try {
			const yard = ask(api.GET('/api/yard'));
			vehicle = await ask(api.GET('/api/vehicles/{vehicle_id}', { params: { path: { vehicle_id: id } } }));
			others = (await yard).vehicles.filter((row) => row.id !== id);
		} catch (error) {
			wrong = wordsOf(error);
		}
	}

	async function write(what: Omit<Schemas['BookIn'], 'both_sides'>, label: string) {
		wrong = '';
		const id = crypto.randomUUID();
		const to = `/api/vehicles/${path.vehicle_id}/hubs/${hub?.id}/book`;
		const body = { ...what, both_sides: true, id };
		try {
			await outbox.enter({ id, caseId: '', label, kind: 'write', method: 'POST', to, body });
			open = '';
			await load(path.vehicle_id);
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
	async function copy() {
		wrong = '';
		try {
			vehicle = await ask(
				api.POST('/api/vehicles/{vehicle_id}/book/copy', { params: { path }, body: { vehicle: like } })
			);
		} catch (error) {
			wrong = wordsOf(error);
		}
	}
	const known = (key: string) => hub?.fastenings?.[key];
	function brief(key: string): string {
		const row = known(key);
		if (!row) return 'not known';
		const { least_nm: least, most_nm: most } = row;
		const figure = least == null ? '' : most == null ? torque(least) : `${torque(least)} to ${torque(most)}`;
		return [
			figure,
			row.thread,
			row.socket_mm ? `${row.socket_mm} mm` : '',
			row.count ? `${row.count} of them` : ''
		]
			.filter(Boolean)
			.join(', ');
	}
</script>

<svelte:head><title>Torque book, {vehicle?.label ?? 'vehicle'} · Hematite</title></svelte:head>

{#if wrong}<div class="pb-3"><Notice level="stop">{wrong}</Notice></div>{/if}
{#if vehicle && hub}
	<div class="grid gap-6 wide:grid-cols-2">
		<section class="grid content-start gap-4">
			<div>
				<h1>Torque book</h1>
				<p class="text-faded">
					<a class="underline" href="/vehicles/{vehicle.id}">{vehicle.label}</a>. What is written here stands
					big at the step that needs it.
				</p>
			</div>
			<Choice
				label="Hub"
				options={hubs.map((row) => ({ key: row.id, words: `${row.words} ${row.id}` }))}
				bind:value={
					() => hub?.id ?? '',
					(id) => void goto(`?hub=${id}`, { replaceState: true, keepFocus: true, noScroll: true })
				}
				row
				slides
			/>
			{#if mate}<p class="text-faded">Kept for {mate.words} {mate.id} as well.</p>{/if}
			<Waits entries={waiting} what="What was written">It is kept when the server is back.</Waits>
			<h2>What is fitted</h2>
			{#each hub.questions as row (row.key)}
				<div class="grid gap-1">
					<p class="text-faded">
						{row.label}{hub.fittings?.[row.key] ? '' : `: nobody said; ${small(row.taken)} is taken`}
					</p>
					<Choice
						label={row.label}
						options={row.options}
						bind:value={
							() => hub?.fittings?.[row.key] ?? '',
							(answer) =>
								void write({ fittings: { [row.key]: answer }, fastenings: {} }, `${hub?.id}: ${row.label}`)
						}
						row
					/>
				</div>
			{/each}
			{#if others.length}
				<form
					class="plate grid gap-3"
					onsubmit={(event) => {
						event.preventDefault();
						void copy();
					}}
				>
					<h2>Take over from a like vehicle</h2>
					<Pick
						label="Vehicle"
						options={others.map((row) => ({ key: row.id, words: row.label }))}
						bind:value={like}
					/>
					<p class="text-faded">Hub by hub of the same design; what is known here stays.</p>
					<div><Button type="submit" disabled={!like}>Take it over</Button></div>
				</form>
			{/if}
		</section>
		<section class="grid content-start gap-3">
			<h2>Torques, threads, sockets</h2>
			<p class="text-faded">
				A range is aimed at its middle. What nobody knows is never made up: with thread and grade a bolt gets
				a stop-gap that is marked as one; wheel nuts, axle nuts and what sets a bearing never do.
			</p>
			<Accordion.Root type="single" bind:value={open} class="grid gap-2">
				{#each kinds as kind (kind.key)}
					<Accordion.Item value={kind.key} class="plate py-1 {known(kind.key) ? '' : 'border-l-ochre'}">
						<Accordion.Header>
							<Accordion.Trigger class="grid min-h-12 w-full gap-x-3 py-1 text-left sm:grid-cols-2">
								<span class="font-semibold">{kind.label}</span>
								<span class={known(kind.key) ? 'font-mono' : 'text-faded'}>{brief(kind.key)}</span>
							</Accordion.Trigger>
						</Accordion.Header>
						<Accordion.Content class="grid gap-3 pb-3">
							{#each kind.seen as seen (seen.of)}<p class="text-faded">
									Seen on {seen.of}: {seen.nm.map(torque).join(' to ')}; to check by.
								</p>{/each}
							{#key hub.id + kind.key}
								<TorqueForm
									known={known(kind.key)}
									wide
									onsave={(row) =>
										write({ fittings: {}, fastenings: { [kind.key]: row } }, `${hub?.id}: ${kind.label}`)}
									onclear={() =>
										write({ fittings: {}, fastenings: { [kind.key]: null } }, `${hub?.id}: ${kind.label}`)}
								/>
							{/key}
						</Accordion.Content>
					</Accordion.Item>
				{/each}
			</Accordion.Root>
		</section>
	</div>
{:else if wrong}<Notice level="stop">{wrong}</Notice>{/if}
