import autocannon from 'autocannon';
import type { Row } from './row';

/** Seconds for each address, and connections at once. */
const DURATION = 5;
const CONNECTIONS = 8;

/** Pages a second of the rack (database and all) beside the framework's bare page, taken in turns. */
export async function requestRates(origin: string, bare: string, cookie: string): Promise<Row[]> {
	const home = await fetch(origin, { redirect: 'manual', headers: { cookie } });
	const rack = new URL(home.headers.get('location') ?? '/', origin).href;
	const rate = async (url: string) => {
		const result = await autocannon({
			url,
			connections: CONNECTIONS,
			duration: DURATION,
			headers: url === bare ? {} : { cookie }
		});
		if (result.non2xx || result.errors)
			throw new Error(`${url} answered ${result.non2xx} times with an error`);
		return result.requests.average;
	};
	await rate(rack);
	const bareRate = await rate(bare);
	const rackRate = await rate(rack);
	return [
		{
			what: 'rack pages a second',
			measured: rackRate.toFixed(0),
			against: `${(rackRate / bareRate).toFixed(2)} of the framework’s bare page (${bareRate.toFixed(0)})`
		}
	];
}
