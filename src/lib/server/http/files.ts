/** A file's name from a tank's: plain letters, so that every system takes it. */
export const fileName = (name: string, ending: string): string => {
	const plain = name
		.normalize('NFKD')
		.replace(/[^\w\s-]/g, '')
		.trim()
		.replace(/\s+/g, '-')
		.toLowerCase();
	return `${plain || 'tank'}.${ending}`;
};

/** A file that goes out as it is made. */
export function streamed(pieces: AsyncGenerator<string>, type: string, name?: string): Response {
	const encoder = new TextEncoder();
	const body = new ReadableStream<Uint8Array>({
		async pull(controller) {
			try {
				const { done, value } = await pieces.next();
				if (done) controller.close();
				else controller.enqueue(encoder.encode(value));
			} catch (failure) {
				controller.error(failure);
			}
		},
		async cancel() {
			await pieces.return(undefined);
		}
	});
	return new Response(body, {
		headers: {
			'content-type': type,
			'cache-control': 'private, no-store',
			...(name ? { 'content-disposition': `attachment; filename="${name}"` } : {})
		}
	});
}
