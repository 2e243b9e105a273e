<script lang="ts">
	import { decimal } from '$lib/numbers';
	import { Circle, Square } from '@lucide/svelte';
	import { untrack, type Snippet } from 'svelte';
	import { goto } from '$app/navigation';
	import { api, ask, wordsOf } from '$lib/api/client';
	import { useCase } from '$lib/case/case.svelte';
	import { hubAfter, withHub } from '$lib/case/hub.svelte';
	import { bindKeys } from '$lib/keys.svelte';
	import { outbox } from '$lib/outbox/outbox.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Arriving from './Arriving.svelte';
	import { recorder } from './capture.svelte';
	import LevelBar from './LevelBar.svelte';
	import { LiveEar } from './live.svelte';
	import LivePanel from './LivePanel.svelte';
	import FileSorter from './FileSorter.svelte';
	import { readable } from './files';
	import { CABIN, Made, whereWords, type Run } from './made.svelte';
	import FilePad from './FilePad.svelte';
	import MadeForm from './MadeForm.svelte';
	import MarkPads from './MarkPads.svelte';
	import RecorderOptions, { type Options } from './RecorderOptions.svelte';
	import QualityReport from './QualityReport.svelte';

	interface Props {
		place: string;
		afterRepair?: boolean;
		/** Called when a recording is kept for good. */
		onkept?: () => void;
		/** What stands above the recorder, and under how it is made: beside each other where there is room. */
		above?: Snippet;
		below?: Snippet;
	}
	let { place, afterRepair = false, onkept, above, below }: Props = $props();
	const held = useCase();
	const made = new Made(held.id);
	if (held.detail?.practice) made.practise();
	// Of the case, not of this screen: to leave it ends no recording, and to come back shows how it goes.
	const capturing = recorder.of(held.id);
	const options = $state<Options>({ countIn: false, stopDecided: false, device: '', condition: '' });
	let opened = $state(0);
	let many = $state.raw<File[]>([]);
	let wrong = $state('');
	const ear = new LiveEar(held.id, () => void (options.stopDecided && capturing.stop()));
	/** What a recording begun now is of; the place is the one that is shown as it begins. */
	const making = () => {
		const [at, after] = [place, afterRepair];
		return (run: Run) => made.of(at, after, run);
	};
	// What came of an earlier one is no longer this screen's matter; what still runs is.
	if (!untrack(() => capturing.running)) capturing.again();
	const COUNT_IN = 3;
	const MORE_S = 10;
	const LOST_S = 0.3;

	const now = $derived(capturing.now);
	/** What the recorder does, for who listens to the screen: not the seconds, which would never end. */
	const spoken = $derived(
		now.state === 'recording'
			? `Recording ${whereWords(capturing.place)}`
			: now.state === 'kept'
				? now.recording.state === 'done'
					? 'Stopped, kept and heard'
					: 'Stopped and kept'
				: ''
	);
	const way = $derived(made.way);
	const where = $derived(capturing.running ? capturing.place : made.place(place));
	const left = $derived(now.state === 'recording' ? Math.max(0, capturing.atMost - now.seconds) : 0);
	$effect(() => () => ear.end());
	$effect(() => {
		if (now.state !== 'recording') ear.end();
		else void ear.look(now.seconds, () => capturing.soFar(), capturing.made);
	});
	$effect(() => outbox.onSent((entry) => void capturing.arrived(entry.id)));

	async function toggle() {
		// What runs can always be stopped, whatever the form says by now.
		if (now.state === 'recording') return void (await capturing.stop());
		if (now.state === 'counting' || now.state === 'opening') return capturing.again();
		wrong = made.speedWrong ?? '';
		if (wrong || held.closed || now.state === 'checking') return;
		made.keep();
		if (made.source === 'simulated') await capturing.simulate(made.of(place, afterRepair), options.condition);
		else if (made.source === 'microphone') {
			const make = making(); // the place is that of the press, whatever is chosen while it counts
			if (options.countIn && !(await capturing.countIn(make, COUNT_IN))) return;
			ear.begin();
			await capturing.start(make, options.device, way?.seconds ?? 60);
			opened += 1;
		}
		await held.refresh();
	}

	async function bring(files: File[]) {
		wrong = made.speedWrong ?? '';
		if (!files.length || wrong) return;
		made.keep();
		if (files.length > 1) {
			many = files;
			return;
		}
		try {
			await capturing.send(await readable(files[0] as File), made.of(place, afterRepair));
		} catch (error) {
			wrong = wordsOf(error);
		}
		await held.refresh();
	}

	async function takeAgain() {
		if (now.state !== 'kept') return capturing.again();
		try {
			const params = { path: { recording_id: now.id } };
			await ask(api.POST('/api/recordings/{recording_id}/withdraw', { params, body: { withdrawn: true } }));
			capturing.again();
			await held.refresh();
		} catch (error) {
			wrong = wordsOf(error);
		}
	}

	async function keep() {
		capturing.again();
		void held.refresh(); // not waited for: a key pressed meanwhile must not be answered by going back here
		if (onkept) onkept();
		else await goto(withHub(hubAfter(held, place)), { keepFocus: true });
	}

	$effect(() =>
		bindKeys([
			{ key: ' ', label: 'Start or stop recording', run: () => void toggle() },
			{ key: 'a', label: 'Take it again', run: () => void takeAgain() },
			{ key: 'n', label: 'Keep it, next hub', run: () => void (now.state === 'kept' && keep()) },
			{ key: '+', label: 'Ten more seconds', run: () => capturing.extend(MORE_S) }
		])
	);
</script>

<div class={['grid content-start gap-4', above && 'wide:grid-cols-2 wide:gap-6']}>
	<div class="grid content-start gap-4">
		{@render above?.()}
		<section class="plate grid gap-4 border-l-oxide" aria-label="Recorder">
			<p class="sr-only" role="status">{spoken}</p>
			{#if capturing.running}<p class="flex items-baseline justify-between gap-3">
					<span class="figure">{where === CABIN ? 'Cabin' : where}</span>
					{#if now.state === 'recording'}<span class="figure" role="timer">{decimal(now.seconds, 1)} s</span
						>{/if}
					{#if now.state === 'counting'}<span class="figure" role="timer">in {now.left} …</span>{/if}
				</p>{/if}
			{#if way && (now.state === 'idle' || now.state === 'counting' || now.state === 'opening' || now.state === 'failed')}
				<p class="text-lg leading-snug">{way.say}</p>
				<p class="text-faded">{way.caution}</p>
			{/if}
			{#if now.state === 'recording'}
				<LevelBar peak={now.peak} />
				{#if capturing.unkept}<Notice level="warn"
						>This device has no room: keep the page open until it is stopped and sent.</Notice
					>{/if}
				<p class="text-faded">
					Stops by itself in {decimal(left)} s{options.stopDecided ? ', or when it is decided' : ''}.
				</p>
				<MarkPads {capturing} {made} />
			{/if}
			{#if capturing.running || now.state === 'idle' || now.state === 'failed'}
				{#if made.source === 'file' && now.state !== 'recording'}
					<FilePad onbring={(files) => void bring(files)} disabled={held.closed} />
				{:else}
					<Button look="main" hotkey="Space" class="min-h-16 text-lg" onclick={toggle} disabled={held.closed}>
						{#if now.state === 'recording'}<Square
								class="fill-current"
								aria-hidden="true"
							/>Stop{:else if now.state === 'counting' || now.state === 'opening'}Call it off{:else}<Circle
								class="fill-current"
								aria-hidden="true"
							/>Record {where === CABIN ? 'in the cabin' : where}{/if}
					</Button>
				{/if}
				{#if now.state === 'recording'}
					<LivePanel {ear} />
					<Button hotkey="+" onclick={() => capturing.extend(MORE_S)}>Ten more seconds</Button>
				{/if}
				{#if made.warns && !capturing.running}<Notice level="warn">{made.warns}</Notice>{/if}
				{#if now.state === 'failed'}<Notice level="stop">{now.words}</Notice>{/if}
			{:else if now.state === 'kept'}
				{#if capturing.missing > LOST_S}
					<Notice level="warn"
						>The browser lost {decimal(capturing.missing, 1)} s while the screen was locked or hidden. Take it again
						and keep this page in front.</Notice
					>
				{/if}
				<QualityReport recording={held.recordings.find((row) => row.id === now.id) ?? now.recording} />
				<div class="flex flex-wrap gap-3">
					{#if now.recording.usable}
						<Button look="main" hotkey="n" onclick={keep}>Keep</Button>
						<Button hotkey="a" onclick={takeAgain}>Take again</Button>
					{:else}
						<Button look="main" hotkey="a" onclick={takeAgain}>Take again</Button>
						<Button hotkey="n" onclick={keep}>Keep it all the same</Button>
					{/if}
				</div>
			{/if}
			<Arriving {capturing} />
			{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
		</section>
		{#if many.length}
			<FileSorter files={many} make={(hub) => made.of(hub, afterRepair)} ondone={() => (many = [])} />
		{/if}
	</div>
	<div class="grid content-start gap-4">
		{#if !capturing.running}<MadeForm {made} /><RecorderOptions {made} {options} {opened} />{/if}
		{@render below?.()}
	</div>
</div>
