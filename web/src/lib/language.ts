import { locales, type Locale } from '../locales/data.js';

export type { Locale };

/** Read by the server too, for whoever chose no language of their own and whose workshop has none. */
const COOKIE = 'django_language';

/** What each language calls itself, whatever is spoken now. */
export const NAMES: Record<Locale, string> = {
	en: /* @wc-ignore */ 'English',
	de: /* @wc-ignore */ 'Deutsch'
};

const known = (name: string | null | undefined): Locale | undefined =>
	locales.find((one) => one === name?.slice(0, 2).toLowerCase());

function chosen(): Locale {
	if (typeof document === 'undefined') return 'en'; // a service worker, or a test
	const kept = new RegExp(`(?:^|; )${COOKIE}=([a-z]+)`).exec(document.cookie)?.[1];
	return known(kept) ?? navigator.languages.map(known).find(Boolean) ?? 'en';
}

/** The language of this page, from its opening to its end: as the server said last, else as the browser asks for. */
export const language: Locale = chosen();

/** The language for figures and dates: the device's own way of writing where it is of the same language. */
export const writing: string | undefined =
	typeof navigator === 'undefined' || language === 'en'
		? undefined
		: (navigator.languages.find((one) => known(one) === language) ?? language);

/** Words as they stand in mid-sentence: in English they begin small, elsewhere as they are written. */
export const small = (words: string): string => (language === 'en' ? words.toLowerCase() : words);

if (typeof document !== 'undefined') document.documentElement.lang = language;

/** Speak the language that the server says. Where that is another one, the page is opened again in it, or the next time. */
export function speak(name: string, again = true): void {
	const wanted = known(name);
	if (!wanted || typeof document === 'undefined') return;
	document.cookie = `${COOKIE}=${wanted}; path=/; max-age=31536000; samesite=lax`;
	// A browser that keeps no cookie would open it again for ever.
	if (again && wanted !== language && chosen() === wanted) location.reload();
}
