import { mkdirSync } from 'node:fs';
import { startApplication } from './tests/support/application';
import { DESK, PHONE, newDevice, openBrowser, visit, tanksOf } from './tests/support/browser';
mkdirSync('/tmp/shots', { recursive: true });
const what = process.argv[2] ?? 'first';
const browser = await openBrowser();
const app = await startApplication(what === 'first' ? { mode: 'start' } : {});
const shot = async (page: any, name: string) => { await new Promise(r => setTimeout(r, 350)); await page.screenshot({ path: `/tmp/shots/${name}.png` }); };
const night = (page: any) => page.evaluate(() => document.documentElement.classList.add('dark'));
try {
if (what === 'first') {
	const page = await newDevice(browser, DESK);
	const at = async (p: RegExp) => { await page.waitForFunction((w: string) => new RegExp(w).test(location.pathname), {}, p.source); await page.waitForSelector('html[data-ready]'); };
	await page.goto(app.origin); await at(/signup/);
	await shot(page, 'f1-signup');
	await page.type('input[name=name]', 'Ada'); await page.type('input[name=email]', 'a@b.example'); await page.type('input[name=password]', 'nine herons!'); await page.keyboard.press('Enter');
	await at(/begin$/); await page.type('input[name=name]', 'Reef'); await page.type('input[name=netVolumeL]', '200');
	await shot(page, 'f2-begin'); await page.keyboard.press('Enter');
	await at(/units/); await shot(page, 'f3-units'); await page.setViewport(PHONE); await shot(page, 'f3-units-phone'); await page.setViewport(DESK);
	const tank = new URL(page.url()).searchParams.get('tank');
	await page.click('form button[type=submit]'); await at(/shelf\/new/);
	await page.focus('[data-leaflet] input'); await page.keyboard.type('1\n0\n.75\n4\n.5\n8.9\n.25\n12\n');
	await shot(page, 'f4-kit'); await page.setViewport(PHONE); await shot(page, 'f4-kit-phone'); await night(page); await page.setViewport(DESK); await shot(page, 'f4-kit-night');
	await page.click('[data-kit] button[type=submit]'); await page.waitForSelector('[data-testid=on-shelf]'); await page.evaluate(() => document.documentElement.classList.remove('dark'));
	await page.click('[data-look=drops]'); await shot(page, 'f5-saved');
	await page.click('[data-kit] button[type=submit]'); await page.waitForFunction(() => document.querySelector('[data-testid=on-shelf]')?.textContent?.includes('drops'));
	await visit(page, `${app.origin}/s/${tank}/shelf`); await shot(page, 'f6-shelf');
	await visit(page, `${app.origin}/s/${tank}/bench/one?of=calcium`); await page.keyboard.type('14'); await page.waitForSelector('[data-testid=not-yours]'); await shot(page, 'f7-notyours');
	await page.click('form.bench [type=submit]'); await page.waitForFunction(() => Object.keys(localStorage).every((k) => !k.startsWith('tevrik.outbox.')));
	await visit(page, `${app.origin}/s/${tank}/rack`); await shot(page, 'f8-rack');
	await visit(page, `${app.origin}/s/${tank}/bench`); await shot(page, 'f9-evening');
	await visit(page, `${app.origin}/account`); await shot(page, 'f10-account');
} else {
	const tanks = await tanksOf(browser, app.origin);
	const page = await newDevice(browser, DESK);
	for (const [i, t] of tanks.entries()) {
		await page.setViewport(DESK);
		await visit(page, `${app.origin}/s/${t}/rack`); await shot(page, `d${i}-rack`);
		await visit(page, `${app.origin}/s/${t}/trends?of=alkalinity`); await page.waitForSelector('[data-ready=true] canvas'); await shot(page, `d${i}-trends`);
		await page.setViewport(PHONE);
		await visit(page, `${app.origin}/s/${t}/rack`); await shot(page, `d${i}-rack-phone`);
		await visit(page, `${app.origin}/s/${t}/trends?of=alkalinity`); await page.waitForSelector('[data-ready=true] canvas'); await shot(page, `d${i}-trends-phone`);
		await visit(page, `${app.origin}/s/${t}/bench/one?of=${i ? 'nitrate' : 'alkalinity'}`); await page.type('[data-entry]', i ? '2-4' : '.49'); await shot(page, `d${i}-one-phone`);
	}
}
} finally { await browser.close(); await app.stop(); }
