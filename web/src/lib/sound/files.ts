import type { Schemas } from '$lib/api/client';
import { encodeWav } from './wav';

/** What the server reads as it is; anything else the browser is asked to decode first. */
const READ_BY_SERVER = /\.(wav|flac|ogg|oga|mp3|aiff?|csv|txt|uff|unv)$/i;
export const ACCEPTED =
	'.wav,.flac,.ogg,.oga,.mp3,.aif,.aiff,.csv,.txt,.uff,.unv,.m4a,.aac,.mp4,.webm,audio/*';

/** A file that the server can read: as it came, or decoded here (a phone's AAC). Throws in words. */
export async function readable(file: File): Promise<Blob> {
	if (READ_BY_SERVER.test(file.name)) return file;
	const context = new OfflineAudioContext(1, 1, 48_000);
	try {
		const sound = await context.decodeAudioData(await file.arrayBuffer());
		return encodeWav([sound.getChannelData(0)], sound.sampleRate);
	} catch {
		throw new Error(
			`${file.name} is no sound that this browser can read. Export it as WAV, or record it again.`
		);
	}
}

const SIDES: [RegExp, Schemas['HubOut']['side']][] = [
	[/left|_l\b|\bl_|\bl\b|nearside/, 'left'],
	[/right|_r\b|\br_|\br\b|offside/, 'right']
];

/** The place that a file's name speaks of: a hub's own name, or words such as front-left; '' when it does not say. */
export function placeByName(
	name: string,
	hubs: Schemas['HubOut'][],
	axleOf: (hub: string) => number
): string {
	const text = name.toLowerCase().replace(/\.[a-z0-9]+$/, '');
	const named = hubs.find((hub) =>
		new RegExp(`(^|[^a-z0-9])${hub.id.toLowerCase()}([^a-z0-9]|$)`).test(text)
	);
	if (named) return named.id;
	if (/cabin|inside/.test(text)) return 'cabin';
	const short = /(^|[^a-z])([fr])([lr])([^a-z]|$)/.exec(text);
	const side = short ? (short[3] === 'l' ? 'left' : 'right') : SIDES.find(([words]) => words.test(text))?.[1];
	const last = Math.max(...hubs.map((hub) => axleOf(hub.id)));
	const axle =
		/front/.test(text) || short?.[2] === 'f' ? 1 : /rear|back/.test(text) || short?.[2] === 'r' ? last : 0;
	return hubs.find((hub) => hub.side === side && axleOf(hub.id) === axle)?.id ?? '';
}
