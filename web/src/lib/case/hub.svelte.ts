import { page } from '$app/state';
import type { CaseState } from './case.svelte';

/** The hub in the address, else the one that the screen is most about, else the one worth testing next, else the first. */
export function chosenHub(held: CaseState, lead?: string | null): string {
	const asked = page.url.searchParams.get('hub');
	if (asked && held.hubs.some((hub) => hub.id === asked)) return asked;
	return lead ?? held.assessment?.next_test.hub ?? held.hubs[0]?.id ?? '';
}

/** The hubs as one walks round the vehicle: across the front, down the right side and up the left one. */
export function walked(hubs: { id: string; side: string }[]): string[] {
	const of = (side: string) => hubs.filter((hub) => hub.side === side).map((hub) => hub.id);
	const round = [...of('right'), ...of('centre'), ...of('left').reverse()];
	const start = Math.max(round.indexOf(hubs[0]?.id ?? ''), 0);
	return [...round.slice(start), ...round.slice(0, start)];
}

export function hubAfter(held: CaseState, hub: string): string {
	const ids = walked(held.hubs);
	return ids[(ids.indexOf(hub) + 1) % ids.length] ?? hub;
}

/** The address of this screen with something else in it, a hub or a test; what else stands in it stays. */
export function withIn(changed: Record<string, string>): string {
	const all = { ...Object.fromEntries(page.url.searchParams), ...changed };
	const written = Object.entries(all).map(([key, value]) => `${key}=${encodeURIComponent(value)}`);
	return `${page.url.pathname}?${written.join('&')}`;
}
export const withHub = (hub: string): string => withIn({ hub });
