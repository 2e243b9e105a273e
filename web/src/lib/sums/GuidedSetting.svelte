<script lang="ts">
	import { OctagonAlert } from '@lucide/svelte';
	import { untrack } from 'svelte';
	import { api, ask, type Schemas } from '$lib/api/client';
	import { useCase } from '$lib/case/case.svelte';
	import GaugePanel from '$lib/case/GaugePanel.svelte';
	import { session } from '$lib/session.svelte';
	import { inUnits, mm, ofMm, unitLabel } from '$lib/shown.svelte';
	import TorquePlate from '$lib/job/TorquePlate.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Figure from '$lib/ui/Figure.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { fixed } from '$lib/units';
	import AnswerLine from './AnswerLine.svelte';
	import type { SumState } from './sum.svelte';

	/** Setting a nut, one move after another, each with the figure that it needs; three readings locked decide. */
	interface Props {
		hub: string;
		moves: Schemas['MoveOut'][];
		/** What is entered of a hub that drags before its slack is gone. */
		worn: Schemas['WornOut'];
		states: Record<string, SumState>;
		onkeep: (state: SumState) => Promise<void>;
	}
	let { hub, moves, worn: witness, states, onkeep }: Props = $props();
	const held = useCase();
	const READINGS = session.reference?.least_readings ?? 3;
	const key = untrack(() => `draft-setting-${session.person?.id}-${held.id}-${hub}`);
	/** `gauge`: whether a reading came from one, and was not typed. */
	type Draft = { at: number; open: (number | null)[]; locked: (number | null)[]; gauge: boolean };
	const none = (): (number | null)[] => Array.from({ length: READINGS }, () => null);
	const start = (): Draft => ({ at: 0, open: none(), locked: none(), gauge: false });
	/** Where the hands are, and what was read, in mm; survives a reload. */
	let draft = $state<Draft>(
		untrack(() => JSON.parse(localStorage.getItem(key) ?? 'null') as Draft) ?? start()
	);
	let turned = $state.raw<Schemas['TurnOut'] | null>(null);
	let kept = $state(false);

	const move = $derived(moves[Math.min(draft.at, moves.length - 1)]);
	const nut = $derived(states.nut);
	const slots = $derived(states.slots);
	const setting = $derived(states.setting);
	const shows = $derived(states[move?.shows ?? '']);
	const answer = $derived(shows?.answer);
	const readings = $derived(move?.asks === 'locked' ? draft.locked : draft.open);
	const worn = $derived(Boolean(setting?.values.drags));
	const angle = $derived((nut?.values.angle_deg as number | undefined) ?? null);

	$effect(() => localStorage.setItem(key, JSON.stringify(draft)));
	$effect(() => {
		if (shows) untrack(() => void shows.work());
	});
	/** The stand-in's nut follows: its gauge then finds what a dial would. */
	$effect(() => {
		const thread = nut?.values.thread;
		if (!held.detail?.simulated || typeof thread !== 'string' || angle === null) return;
		const body = {
			hub,
			thread,
			angle_deg: angle,
			preload_nm: Number(nut?.values.preload_nm ?? 0),
			locked: move?.asks === 'locked'
		};
		let late = false;
		ask(
			api.POST('/api/cases/{case_id}/simulated/nut', { params: { path: { case_id: held.id } }, body })
		).then(
			(found) => late || (turned = found),
			() => undefined // the sum itself says what is wrong with the figure
		);
		return () => (late = true);
	});

	const whole = (rows: (number | null)[]): number[] => rows.filter((row): row is number => row !== null);
	const mean = (rows: number[]): number => rows.reduce((a, b) => a + b, 0) / rows.length;
	function read(n: number, si: number | null) {
		const rows = readings.map((row, at) => (at === n ? mm(si) : row));
		if (move?.asks === 'locked') draft.locked = rows;
		else draft.open = rows;
		taken();
	}
	/** What was read goes to the sum that it decides. */
	function taken() {
		const open = whole(draft.open);
		if (move?.asks === 'readings' && open.length === READINGS) nut?.set('seen_mm', mean(open));
		if (move?.asks === 'readings') setting?.set('open_deg', angle);
		if (move?.asks !== 'locked') return;
		setting?.set('locked_deg', angle);
		setting?.set('open_mm', open);
		setting?.set('locked_mm', whole(draft.locked));
	}
	function fromGauge(span_mm: number) {
		draft.gauge = true;
		const n = readings.findIndex((row) => row === null);
		read(n < 0 ? readings.length - 1 : n, ofMm(span_mm));
	}
	function turnTo(degrees: number | null) {
		draft.open = none();
		nut?.set('seen_mm', null);
		nut?.set('angle_deg', degrees);
	}
	function pass(by: number) {
		const place = move?.shows === 'slots' && by > 0 ? slots?.answer?.picture.chosen_deg : undefined;
		if (typeof place === 'number') nut?.set('angle_deg', place);
		draft.at = Math.min(Math.max(draft.at + by, 0), moves.length - 1);
	}
	function drags() {
		setting?.set('drags', true);
		draft.at = moves.length - 1;
	}
	function again() {
		draft = start();
		kept = false;
		setting?.set('drags', false);
		setting?.set('locked_mm', []);
		turnTo(null);
	}

	/** The readings go into the log, where they prove the job; the sums stay with the step and the vehicle. */
	async function finish() {
		if (!setting) return;
		// Found before anything is mended: it weighs, and what was decided is looked at again.
		if (worn)
			await held.observe(
				hub,
				witness.kind,
				{ answer: witness.answer },
				`${hub}: it drags before the slack is gone`
			);
		const verdict = held.verdicts.filter((row) => row.hub === hub).at(-1);
		const resolution_mm = session.reference?.dial_resolutions_mm[unitLabel('length')];
		const locked = whole(draft.locked);
		const value = {
			readings_mm: locked,
			resolution_mm,
			instrument: draft.gauge ? 'digital gauge' : 'dial gauge'
		};
		if (locked.length >= READINGS && !worn)
			await held.observe(hub, 'end_play', value, `${hub}: dial readings, locked`, verdict?.id);
		if (nut && angle !== null && locked.length >= READINGS) {
			nut.set('seen_mm', mean(locked)); // at the angle where it is locked: what this hub is known by from now on
			await onkeep(nut);
		}
		await onkeep(setting);
		kept = true;
		localStorage.removeItem(key);
	}
</script>

{#if move}
	<section class="grid gap-3" aria-label="Setting the nut at {hub}">
		<p class="flex justify-between text-faded">
			<span>Move {draft.at + 1} of {moves.length}</span><span class="font-mono">{hub}</span>
		</p>
		<p class="text-xl leading-snug font-semibold">{inUnits(move.do)}</p>
		{#if move.torque}<TorquePlate torque={move.torque} />{/if}
		{#if shows && answer && !worn}
			<AnswerLine sum={shows.sum} {answer} />
			{#if typeof answer.picture.to_deg === 'number'}
				{@const to = answer.picture.to_deg}
				<div><Button onclick={() => turnTo(to)}>It is turned to {to}°</Button></div>
			{/if}
		{/if}
		{#if shows?.wrong}<Notice level="stop">{inUnits(shows.wrong)}</Notice>{/if}
		{#if worn}
			<Notice level="stop"
				>{setting?.answer ? inUnits([setting.answer.line, ...setting.answer.says].join('. ')) : ''}
				{#if kept}<a class="underline" href="/cases/{held.id}/decide?hub={hub}">Decide anew</a>{/if}</Notice
			>
		{:else if move.asks === 'angle'}
			<div class="grid grid-cols-2 gap-3">
				<Figure
					label="Backed off by"
					bind:value={() => angle, (now) => turnTo(now)}
					unit={fixed('°', 0)}
					least={0}
					big
				/>
			</div>
		{:else if move.asks === 'next'}
			<div class="grid grid-cols-2 gap-3">
				<Figure
					label="First place lies back by"
					bind:value={
						() => (slots?.values.next_deg as number | undefined) ?? null, (now) => slots?.set('next_deg', now)
					}
					unit={fixed('°', 0)}
					least={0}
					big
				/>
				{#if typeof turned?.next_deg === 'number'}
					{@const next = turned.next_deg}
					<Button onclick={() => slots?.set('next_deg', next)}>Simulated lock: {next}°</Button>
				{/if}
			</div>
		{:else if move.asks}
			<div class="grid grid-cols-3 gap-2">
				{#each readings as reading, n (n)}
					<Figure
						label="Reading {n + 1}"
						bind:value={() => ofMm(reading), (si) => read(n, si)}
						of="length"
						least={0}
						big
					/>
				{/each}
			</div>
			<GaugePanel {hub} ontake={fromGauge} turned={turned?.strokes_mm} />
		{/if}
		{#if turned?.drags && move.drags && angle !== null && !worn}
			<Notice level="warn">The simulated hub drags at this angle.</Notice>
		{/if}
		{#if kept}<Notice
				>Kept with this step.{worn
					? ''
					: ' The readings prove the job, and this hub is known better from now on.'}</Notice
			>{/if}
		<div class="flex flex-wrap gap-2">
			<Button onclick={() => pass(-1)} disabled={draft.at === 0}>Back</Button>
			{#if draft.at < moves.length - 1}
				<Button look="main" class="grow" onclick={() => pass(1)}>Next move</Button>
			{:else}
				<Button
					look="main"
					class="grow"
					onclick={() => void finish()}
					disabled={held.closed || kept || !(worn || setting?.answer?.line)}>Keep the setting</Button
				>
			{/if}
			{#if move.drags && !worn}
				<Button onclick={drags}><OctagonAlert aria-hidden="true" />It drags before the slack is gone</Button>
			{/if}
			{#if draft.at > 0}<Button look="quiet" onclick={again}>From the start</Button>{/if}
		</div>
	</section>
{/if}
