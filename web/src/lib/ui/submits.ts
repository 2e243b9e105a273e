/** A form's own work in place of the browser's sending. */
export const submits = (run: () => unknown) => (event: SubmitEvent) => {
	event.preventDefault();
	void run();
};
