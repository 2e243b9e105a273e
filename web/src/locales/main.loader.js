import toRuntime from 'wuchale/runtime';
import { language } from '../lib/language';
import { loadCatalog } from './.wuchale/main.proxy.js';

// The one language of this page is there before anything is drawn, in constants of modules too.
const runtime = toRuntime(await loadCatalog('main', language), language);

export const getRuntime = () => runtime;
export const getRuntimeRx = getRuntime;
