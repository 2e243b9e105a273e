export { getRuntime, getRuntimeRx } from './main.loader';
