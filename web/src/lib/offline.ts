/** What the server answered, kept on the device for when it is away; of one person only. */
export const API_CACHE = 'hematite-answers';
/** The header of an answer that comes from the device: when the server gave it. */
export const KEPT_SINCE = 'X-Kept-Since';

const OWNER = 'answers-of';

/** What is kept is this person's now: anybody else's goes. '' for nobody. */
export async function keepAnswersOf(owner: string): Promise<void> {
	if (localStorage.getItem(OWNER) === owner && owner) return;
	localStorage.setItem(OWNER, owner);
	await globalThis.caches?.delete(API_CACHE).catch(() => false);
}
