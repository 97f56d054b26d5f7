/** Offers what stands at an address as a file. */
export function saveFile(name: string, href: string): void {
	const link = document.createElement('a');
	link.href = href;
	link.download = name;
	link.click();
}
