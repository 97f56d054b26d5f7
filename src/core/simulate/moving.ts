import { DAY } from '../base';
import { el, normal, uniform } from '../statistics';

/** What a tank can do that the model of `trend` does not assume. */
type MovingKind =
	| 'a jump'
	| 'a ramp'
	| 'a dosing pump that died'
	| 'a dosing pump set wrong'
	| 'another kit without a name'
	| 'one misreading in ten'
	| 'a gap of 60 days'
	| 'pulled back'
	| 'an eye that is off';

/** A tank that stood steady and then may have moved; its truth is known. Alkalinity in dKH, of the eye nitrate in mg/L. */
export interface Moving {
	kind: MovingKind;
	/** Error of one reading. */
	error: number;
	parameter: string;
	unit: string;
	readings: (
		| { at: string; value: number; standardUncertainty: number }
		| { at: string; interval: [number, number]; method: string }
	)[];
	events: { at: string; kind: 'dosing'; perDay: number }[];
	now: string;
	level: number;
	levelIn: (days: number) => number;
	/** How far it has moved from where it stood, and places of misreadings. */
	move: number;
	misreadings: number[];
}

const START = Date.parse('2026-01-01T00:00:00Z');
/** Patches of a card for nitrate, mg/L. */
const PATCHES = [0, 2, 5, 10, 20, 40];

/**
 * Simulates one tank: `days` of standing steady (pulled back to its mean by half in ten days, not a random walk), tested every
 * four to seven days, then what its kind says, with `after` tests since, one to two days apart.
 */
export function simulateMoving(kind: MovingKind, seed: number, after = 2, days = 120): Moving {
	const random = uniform(seed);
	const gauss = normal(random);
	const at = (day: number) => new Date(START + Math.round(day * DAY)).toISOString();
	const eye = kind === 'an eye that is off';
	const scale = eye ? 6 : 1;
	const error = 0.12 + 0.1 * random();
	const mean = eye ? 8 + 4 * random() : 7.6 + 1.4 * random();
	const use = eye ? 0 : 0.4 + 0.5 * random();
	const moved = days + random();
	const sign = random() < 0.5 ? -1 : 1;
	const size = kind === 'a jump' ? sign * (1 + 1.5 * random()) : 0;
	const slope =
		kind === 'a ramp'
			? sign * (0.12 + 0.25 * random())
			: kind === 'a dosing pump that died'
				? -use
				: kind === 'a dosing pump set wrong'
					? sign * use * (0.3 + 0.3 * random())
					: 0;
	const spread = scale * 0.15 * (0.7 + 0.6 * random());
	const keep = 0.5 ** (1 / 40);
	let off = spread * gauss();
	const wander: number[] = [];
	for (let step = 0; step < (days + 90) * 4; step++) {
		wander.push(mean + off);
		off = off * keep + spread * Math.sqrt(1 - keep * keep) * gauss();
	}
	const truth = (day: number): number => {
		const i = Math.max(0, day * 4);
		const k = Math.floor(i);
		const quiet = el(wander, k) + (i - k) * (el(wander, k + 1) - el(wander, k));
		return Math.max(0, quiet + (day > moved ? size + slope * (day - moved) : 0));
	};
	const times: number[] = [];
	for (let day = random() * 3; day < days; day += 4 + 3 * random()) times.push(day);
	if (kind === 'a gap of 60 days') times.push(times.at(-1)! + 60);
	else if (size || slope) {
		const gap = slope ? 1.5 + 1.5 * random() : 1 + random();
		for (let k = 1; k <= after; k++) times.push(moved + gap * (slope ? k : k - 0.7));
	}
	const misreadings: number[] = [];
	const kitChange = kind === 'another kit without a name' ? days * (0.4 + 0.5 * random()) : Infinity;
	const kits = [0, 0.3 * gauss()];
	const eyeOff = eye ? 0.4 * gauss() : 0;
	const readings = times.map((day, i): Moving['readings'][number] => {
		if (eye) {
			// Off by a share of a gap, always the same way.
			const seen = truth(day);
			const gapOf = (x: number) =>
				Math.max(
					1,
					PATCHES.findIndex((p) => p > x)
				);
			const k = gapOf(seen);
			const width = (PATCHES[k] ?? 80) - el(PATCHES, k - 1);
			const shown = Math.max(0, seen + eyeOff * width);
			const g = gapOf(shown);
			return { at: at(day), interval: [el(PATCHES, g - 1), PATCHES[g] ?? 80], method: 'card' };
		}
		let value = truth(day) + el(kits, day > kitChange ? 1 : 0) + error * gauss();
		if (kind === 'one misreading in ten' && random() < 0.1) {
			value += (random() < 0.5 ? -1 : 1) * error * (5 + 10 * random());
			misreadings.push(i);
		}
		const standardUncertainty = kind === 'another kit without a name' ? Math.hypot(error, 0.25) : error;
		return { at: at(day), value: Math.max(0, value), standardUncertainty };
	});
	const now = times.at(-1)! + (kind === 'a gap of 60 days' ? -1 : 0.05);
	const known = readings.filter((r) => Date.parse(r.at) <= START + now * DAY);
	return {
		kind,
		error: eye ? 1 : error,
		parameter: eye ? 'nitrate' : 'alkalinity',
		unit: eye ? 'mg/L NO3' : 'dKH',
		readings: known,
		events: eye ? [] : [{ at: at(0), kind: 'dosing', perDay: use }],
		now: at(now),
		level: truth(now),
		levelIn: (ahead) => truth(now + ahead),
		move: truth(now) - mean,
		misreadings
	};
}
