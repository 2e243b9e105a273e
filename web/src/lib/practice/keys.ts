/** The single keys of a question: which wheel, and how sure. */
export const HUB_KEYS = 'qwer';
export const SURE_KEYS = 'asdfgh';
