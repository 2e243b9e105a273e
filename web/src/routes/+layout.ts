// A single-page app: the server renders nothing.
export const ssr = false;
export const prerender = false;
