<script lang="ts">
	import { Circle, Square } from '@lucide/svelte';
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { wordsOf, api, ask } from '$lib/api/client';
	import { useCase } from '$lib/case/case.svelte';
	import { hubAfter } from '$lib/case/hub.svelte';
	import { bindKeys } from '$lib/keys.svelte';
	import { outbox } from '$lib/outbox/outbox.svelte';
	import { session } from '$lib/session.svelte';
	import Button from '$lib/ui/Button.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Pick from '$lib/ui/Pick.svelte';
	import { Capturing } from './capture.svelte';
	import LevelBar from './LevelBar.svelte';
	import { Made } from './made.svelte';
	import MadeForm from './MadeForm.svelte';
	import { inputDevices } from './microphone';
	import QualityReport from './QualityReport.svelte';

	interface Props {
		place: string;
		afterRepair?: boolean;
		/** Called when a recording is kept for good. */
		onkept?: () => void;
	}
	let { place, afterRepair = false, onkept }: Props = $props();
	const held = useCase();
	const made = new Made(held.id);
	const capturing = new Capturing(held.id);
	let condition = $state('');
	let device = $state('');
	let devices = $state<{ key: string; words: string }[]>([]);
	let wrong = $state('');

	const now = $derived(capturing.now);
	const conditions = $derived([
		{ key: '', words: held.detail?.simulated ? 'What this demo case hides' : 'a sound bearing' },
		...(session.reference?.conditions ?? []).filter((row) => row.key !== 'sound')
	]);

	$effect(() => () => capturing.abandon());
	$effect(() => outbox.onSent((entry) => void capturing.arrived(entry.id)));

	async function listDevices() {
		const found = await inputDevices();
		devices = found.map((input, n) => ({ key: input.deviceId, words: input.label || `Input ${n + 1}` }));
	}
	void listDevices();

	async function toggle() {
		wrong = made.speedWrong ?? '';
		if (wrong || held.closed) return;
		made.keep();
		if (now.state === 'recording') await capturing.stop(made.of(place, afterRepair));
		else if (now.state === 'checking') return;
		else if (made.source === 'simulated') await capturing.simulate(made.of(place, afterRepair), condition);
		else if (made.source === 'microphone') await capturing.start(device).then(listDevices);
		await held.refresh();
	}

	async function bring(event: Event & { currentTarget: HTMLInputElement }) {
		const file = event.currentTarget.files?.[0];
		event.currentTarget.value = '';
		wrong = made.speedWrong ?? '';
		if (!file || wrong) return;
		made.keep();
		await capturing.send(file, made.of(place, afterRepair));
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
		else await goto(`${page.url.pathname}?hub=${hubAfter(held, place)}`, { keepFocus: true });
	}

	$effect(() =>
		bindKeys([
			{ key: ' ', label: 'Start or stop recording', run: () => void toggle() },
			{ key: 'a', label: 'Take it again', run: () => void takeAgain() },
			{ key: 'n', label: 'Keep it, next hub', run: () => void (now.state === 'kept' && keep()) }
		])
	);
</script>

<div class="grid gap-4">
	<section class="plate grid gap-4 border-l-oxide" aria-label="Recorder">
		<p class="flex items-baseline justify-between gap-3">
			<span class="figure">{place}</span>
			{#if now.state === 'recording'}<span class="figure" role="timer">{now.seconds.toFixed(1)} s</span>{/if}
		</p>
		{#if now.state === 'recording'}
			<LevelBar peak={now.peak} />
		{/if}
		{#if now.state === 'idle' || now.state === 'recording' || now.state === 'failed'}
			{#if made.source === 'file'}
				<label
					class="inline-flex min-h-16 cursor-pointer items-center justify-center rounded-sm bg-blued px-4 text-lg font-semibold text-on-blued"
				>
					Choose a WAV or FLAC file
					<input
						type="file"
						accept=".wav,.flac,audio/wav,audio/flac"
						class="sr-only"
						onchange={bring}
						disabled={held.closed}
					/>
				</label>
			{:else}
				<Button look="main" hotkey="Space" class="min-h-16 text-lg" onclick={toggle} disabled={held.closed}>
					{#if now.state === 'recording'}<Square class="fill-current" aria-hidden="true" />Stop{:else}<Circle
							class="fill-current"
							aria-hidden="true"
						/>Record {place}{/if}
				</Button>
			{/if}
			{#if now.state === 'failed'}<Notice level="stop">{now.words}</Notice>{/if}
		{:else if now.state === 'checking'}
			<p role="status">Kept. Sending and hearing it …</p>
		{:else if now.state === 'waiting'}
			<Notice level="warn">
				The server cannot be reached. The recording is kept on this device and sent when it is back.
				<Button look="quiet" onclick={() => capturing.again()}>Go on with the next hub</Button>
			</Notice>
		{:else if now.state === 'kept'}
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
		{#if wrong}<Notice level="stop">{wrong}</Notice>{/if}
	</section>
	<MadeForm {made} />
	{#if made.source === 'microphone' && devices.length > 1}
		<Pick label="Input" options={devices} bind:value={device} />
	{/if}
	{#if made.source === 'simulated'}
		<Pick label="The simulated pickup plays" options={conditions} bind:value={condition} />
	{/if}
</div>
