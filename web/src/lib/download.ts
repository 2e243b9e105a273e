/** Hand a file to the person; `href`: where it is, as the browser has it. */
export function download(href: string, name: string): void {
	const link = document.createElement('a');
	link.href = href;
	link.download = name;
	link.click();
}

/** The same of something that was made here. */
export function downloadBlob(blob: Blob, name: string): void {
	const href = URL.createObjectURL(blob);
	download(href, name);
	setTimeout(() => URL.revokeObjectURL(href), 1000); // a browser may fetch it a little later
}
