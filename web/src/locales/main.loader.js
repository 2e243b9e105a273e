import toRuntime from 'wuchale/runtime';
import { language } from '../lib/language';
import { loadCatalog } from './.wuchale/main.proxy.sync.js';

// All languages come with the page, so that one is chosen before anything is drawn, with a line to the server or without.
const runtime = toRuntime(loadCatalog('main', language), language);

export const getRuntime = () => runtime;
export const getRuntimeRx = getRuntime;
