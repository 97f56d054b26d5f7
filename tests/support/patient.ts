/** Asks, and again when a server with too much to do says when to come back, as programs do. */
export async function patiently(ask: () => Promise<Response>): Promise<Response> {
	let answer = await ask();
	for (let again = 0; answer.status === 503 && again < 10; again++) {
		await new Promise((done) => setTimeout(done, 1000 * Number(answer.headers.get('retry-after'))));
		answer = await ask();
	}
	return answer;
}
