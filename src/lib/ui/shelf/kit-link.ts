/** What a link may hold once it is unpacked, bytes: a method is a few kilobytes. */
const MOST = 200_000;

const through = async (bytes: Uint8Array<ArrayBuffer>, stream: CompressionStream | DecompressionStream) => {
	const reader = new Blob([bytes]).stream().pipeThrough(stream).getReader();
	const parts: Uint8Array<ArrayBuffer>[] = [];
	let size = 0;
	for (;;) {
		const { done, value } = await reader.read();
		if (done) return new Blob(parts);
		size += value.byteLength;
		if (size > MOST) {
			await reader.cancel();
			throw new RangeError('too large');
		}
		parts.push(value as Uint8Array<ArrayBuffer>);
	}
};

/** A kit as the part of a link behind #, which goes to no server: its JSON, deflated, in base64url. */
export async function packed(profile: object): Promise<string> {
	const json = new TextEncoder().encode(JSON.stringify(profile));
	const small = new Uint8Array(
		await (await through(json, new CompressionStream('deflate-raw'))).arrayBuffer()
	);
	return btoa(String.fromCharCode(...small))
		.replaceAll('+', '-')
		.replaceAll('/', '_')
		.replace(/=+$/, '');
}

/** What such a part holds; undefined where it is none, or more than a kit can be. */
export async function unpacked(part: string): Promise<unknown> {
	try {
		const bytes = Uint8Array.from(atob(part.replaceAll('-', '+').replaceAll('_', '/')), (c) =>
			c.charCodeAt(0)
		);
		return JSON.parse(await (await through(bytes, new DecompressionStream('deflate-raw'))).text());
	} catch {
		return undefined;
	}
}
