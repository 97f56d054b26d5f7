/** What a page's head says of its theme: its class, the colours of the browser's own parts, and the paper's (as `app.css` has it). */
export const HEAD = {
	night: { theme: 'dark', scheme: 'dark', paper: '#1b1613' },
	paper: { theme: '', scheme: 'light', paper: '#f7f2e8' }
} as const;
