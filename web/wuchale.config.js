import { adapter as svelte, svelteDefaultHeuristic } from '@wuchale/svelte';
import { defineConfig } from 'wuchale';
import { adapter as script } from 'wuchale/adapter-vanilla';

// The sentences stand in the code in English; what they are in other languages stands in `src/locales/*.po`.

/** Attributes whose letters are nobody's sentence. */
const SILENT = [
	'class',
	'd',
	'id',
	'name',
	'points',
	'role',
	'style',
	'transform',
	'type',
	'value',
	'viewBox'
];
/** Texts that begin with a capital and are read by machines: header names, marks in files, errors of the browser. */
const MACHINE = /^(X-[\w-]+|Accept-Language|WAVEfmt |HOLD |\w+Error|Infinity|M[\d#][\d#\sa-zA-Z.-]*)$/;
/** A text that begins with no capital is said where it is several words, and neither address nor style. */
const SEVERAL_WORDS = /\p{L}{2}.* | \(?\p{L}{2}/u;
const ADDRESS_OR_STYLE = /^[/?&.-]|^#[^ ,:]|\w-[\w[]|\w:\w|\dpx|[[\]=]|;(?! )/;

function isSaid(message) {
	const { scope, attribute } = message.details;
	const text = message.msgStr.join('\n');
	if (MACHINE.test(text) || (scope === 'attribute' && SILENT.includes(attribute))) return false;
	if (scope !== 'markup' && SEVERAL_WORDS.test(text) && !ADDRESS_OR_STYLE.test(text)) return 'message';
	return svelteDefaultHeuristic(message);
}

const common = {
	loader: 'custom',
	heuristic: isSaid,
	patterns: [{ name: 'counted', args: ['other', 'message', 'pluralFunc'] }]
};

// One language from the opening of a page to its end: each sentence is looked up where it stands, in constants too.
const plain = {
	initReactive: () => null,
	useReactive: false,
	plain: { wrapInit: (call) => call, wrapUse: () => '_w_load_()' }
};

export default defineConfig({
	locales: ['en', 'de'],
	localesDir: 'src/locales',
	adapters: {
		main: svelte({ ...common, runtime: plain, files: 'src/**/*.svelte' }),
		script: script({
			...common,
			runtime: plain,
			files: { include: 'src/**/*.ts', ignore: ['**/*.d.ts', '**/*.test.ts', '**/glyphs.ts'] }
		})
	}
});
