import { NOW, startApplication } from '../tests/support/application';
import { demoCookie, openBrowser } from '../tests/support/browser';
import { person } from '../tests/support/person';
import { audit } from './bench/audit';
import { book } from './bench/book';
import { buildFairApplication } from './bench/fair-application';
import { calculations } from './bench/calculations';
import { runPlans } from './bench/run-plans';
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
import { Failure, fail, say } from './failure';
import { databaseUrlOf } from './own-mariadb';

/** What is measured, by the word that chooses it: `tevrik bench insiders club` measures these two alone. */
const PARTS: Record<string, { saying: string; measure: () => Promise<void> }> = {
	calculations: {
		saying: 'measuring calculations',
		measure: async () => print([...calculations(), ...runPlans(), ...models(), ...(await plans())])
	},
	pages: { saying: 'starting the application on a database of its own', measure: inTheApplication },
	audit: { saying: 'walking every room with a page auditor', measure: everyRoom },
	strangers: { saying: 'strangers do their worst', measure: async () => print([await underFire()]) },
	insiders: {
		saying: 'somebody who is signed in does theirs',
		measure: async () => print(await insiders())
	},
	club: { saying: 'fifty people use it as people do', measure: async () => print([await aClub()]) },
	hold: { saying: 'twenty keepers use it for ten minutes', measure: async () => print([await longUse()]) },
	cluster: {
		saying: 'several machines, of which some die',
		measure: async () => print(await measuredBy('--project', 'cluster'))
	},
	simulations: {
		saying: 'the long simulations',
		measure: async () => {
			const files = ['questions', 'tank.test', 'bench.test', 'corrected', 'kill', 'walk'];
			print(await measuredBy('--project', 'unit', '--project', 'server', ...files));
		}
	}
};

/** `tevrik bench`: how fast it is, as ratios taken side by side on this machine at this moment. A table, not a test. */
async function main(): Promise<void> {
	const chosen = process.argv.slice(2);
	const unknown = chosen.find((word) => !(word in PARTS));
	if (unknown)
		throw new Failure(
			`Nothing called ${unknown} is measured. Choose from: ${Object.keys(PARTS).join(', ')}.`
		);
	for (const word of chosen.length ? chosen : Object.keys(PARTS)) {
		const { saying, measure } = PARTS[word]!;
		say(saying);
		await measure();
	}
}

/** Every room of the demo as tools see it that nobody here wrote. */
async function everyRoom(): Promise<void> {
	const application = await startApplication();
	const browser = await openBrowser();
	try {
		print(await audit(browser, application.origin));
	} finally {
		await browser.close();
		await application.stop();
	}
}

/** What is measured on one application with the demo in it. */
async function inTheApplication(): Promise<void> {
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
