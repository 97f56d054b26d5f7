import { NOW, startApplication } from '../tests/support/application';
import { demoCookie, openBrowser } from '../tests/support/browser';
import { person } from '../tests/support/person';
import { book } from './bench/book';
import { buildFairApplication } from './bench/fair-application';
import { calculations } from './bench/calculations';
import { evenings } from './bench/evenings';
import { aClub, insiders, longUse, underFire } from './bench/hold';
import { measuredBy } from './bench/long';
import { growth, memory } from './bench/growth';
import { eye } from './bench/eye';
import { practice } from './bench/practice';
import { firstLoad, keystroke } from './bench/pages';
import { plans } from './bench/plans';
import { requestRates } from './bench/rates';
import type { Row } from './bench/row';
import { modelInWorker, models, trendPages } from './bench/trends';
import { fail, say } from './failure';
import { databaseUrlOf } from './own-mariadb';

/** `tevrik bench`: how fast it is, as ratios taken side by side on this machine at this moment. A table, not a test. */
async function main(): Promise<void> {
	say('measuring calculations');
	print([...calculations(), ...evenings(), ...models(), ...(await plans())]);
	say('starting the application on a database of its own');
	const application = await startApplication();
	const browser = await openBrowser();
	try {
		say('measuring pages');
		const keeper = person(application.origin, await demoCookie(application.origin));
		print([
			...(await firstLoad(browser, application.origin, keeper.cookie)),
			await keystroke(browser, application.origin),
			...(await eye(browser, application.origin)),
			...(await practice(browser, application.origin)),
			await modelInWorker(browser)
		]);
		say('filling a tank with ten years of readings');
		print(await trendPages(browser, keeper, application.origin));
		say('taking in a long sheet, and giving it out');
		print(await book(browser, keeper, application.origin, application.data));
		say('many readings, many tanks, many requests');
		print([await memory(keeper, application)]);
		print(await growth(keeper, NOW));
		say('building the framework’s fair page to measure against');
		const url = databaseUrlOf(application.data);
		const fair = await buildFairApplication(url);
		try {
			print(await requestRates(application.origin, url, keeper, fair));
		} finally {
			await fair.stop();
		}
	} finally {
		await browser.close();
		await application.stop();
	}
	say('strangers do their worst');
	print([await underFire()]);
	say('somebody who is signed in does theirs');
	print(await insiders());
	say('fifty people use it as people do');
	print([await aClub()]);
	say('twenty keepers use it for ten minutes');
	print([await longUse()]);
	say('several machines, of which some die');
	print(await measuredBy('--project', 'cluster'));
	say('the long simulations');
	print(
		await measuredBy(
			'--project',
			'unit',
			'--project',
			'server',
			'questions',
			'tank.test',
			'bench.test',
			'corrected',
			'kill',
			'walk'
		)
	);
}

/** Each part as soon as it is known: the whole takes half an hour. */
function print(rows: Row[]): void {
	const width = (key: keyof Row) => Math.max(...rows.map((r) => r[key].length));
	for (const r of rows)
		console.log(`${r.what.padEnd(width('what'))}  ${r.measured.padStart(width('measured'))}  ${r.against}`);
}

// What it starts ends with it, also when it is killed.
process.env['TEVRIK_GUARDED'] = '1';
await main().catch(fail);
