import { startApplication } from '../tests/support/application';
import { demoCookie, openBrowser } from '../tests/support/browser';
import { person } from '../tests/support/person';
import { book } from './bench/book';
import { buildBareApplication } from './bench/bare-application';
import { calculations } from './bench/calculations';
import { evenings } from './bench/evenings';
import { firstLoad, keystroke } from './bench/pages';
import { requestRates } from './bench/rates';
import type { Row } from './bench/row';
import { modelInWorker, models, trendPages } from './bench/trends';
import { fail, say } from './failure';

/** `tevrik bench`: how fast it is, as ratios taken side by side on this machine at this moment. A table, not a test. */
async function main(): Promise<void> {
	say('measuring calculations');
	const rows: Row[] = [...calculations(), ...evenings(), ...models()];
	say('starting the application on a database of its own');
	const application = await startApplication();
	const browser = await openBrowser();
	try {
		say('measuring pages');
		const keeper = person(application.origin, await demoCookie(application.origin));
		rows.push(...(await firstLoad(browser, application.origin, keeper.cookie)));
		rows.push(await keystroke(browser, application.origin));
		rows.push(await modelInWorker(browser));
		say('filling a tank with ten years of readings');
		rows.push(...(await trendPages(browser, keeper, application.origin)));
		say('taking in a long sheet, and giving it out');
		rows.push(...(await book(browser, keeper, application.origin, application.data)));
		say('building the framework’s bare page to measure against');
		const bare = await buildBareApplication();
		try {
			rows.push(...(await requestRates(application.origin, bare.origin, keeper.cookie)));
		} finally {
			await bare.stop();
		}
	} finally {
		await browser.close();
		await application.stop();
	}
	print(rows);
}

function print(rows: Row[]): void {
	const width = (key: keyof Row) => Math.max(...rows.map((r) => r[key].length));
	for (const r of rows)
		console.log(`${r.what.padEnd(width('what'))}  ${r.measured.padStart(width('measured'))}  ${r.against}`);
}

await main().catch(fail);
