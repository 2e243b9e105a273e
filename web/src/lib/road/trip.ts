import type { Schemas } from '$lib/api/client';

type Hub = Schemas['RoadHubOut'];
export interface FeltHere {
	hub: string;
	felt: string;
}
/** The latest feeling at each hub of one stop. */
export const latest = (felt: FeltHere[]): Record<string, string> =>
	Object.fromEntries(felt.map((one) => [one.hub, one.felt]));

/** What is to be done about a hub as it was felt beside its mate: looked up in what the server sent along. */
export function meaning(hub: Hub, felt: Record<string, string>): Schemas['MeansOut'] | undefined {
	const [here, mate] = [felt[hub.id], hub.mate ? (felt[hub.mate] ?? '') : ''];
	return hub.means.find((one) => one.here === here && one.mate === mate);
}

const GRAVITY = ['stop', 'look', 'watch', 'good'];
/** What was felt at a stop, with what it means, the gravest first. */
export const judged = (hubs: Hub[], felt: Record<string, string>) =>
	hubs
		.flatMap((hub) => {
			const means = meaning(hub, felt);
			return means ? [{ hub, means }] : [];
		})
		.sort((a, b) => GRAVITY.indexOf(a.means.level) - GRAVITY.indexOf(b.means.level));
