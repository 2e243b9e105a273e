import { Check, CircleHelp, MessageCircleQuestionMark, OctagonAlert } from '@lucide/svelte';

/** How an answer stands: never by colour alone, always with a shape and a word. */
export const LEVELS: Record<string, { word: string; icon: typeof Check | null; edge: string }> = {
	good: { word: 'Good', icon: Check, edge: 'border-blued' },
	doubt: { word: 'In doubt', icon: CircleHelp, edge: 'border-ochre' },
	bad: { word: 'Not so', icon: OctagonAlert, edge: 'border-oxide' },
	ask: { word: 'Say first', icon: MessageCircleQuestionMark, edge: 'border-ochre' },
	plain: { word: '', icon: null, edge: 'border-blued' }
};
