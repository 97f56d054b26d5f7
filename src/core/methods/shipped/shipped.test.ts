import { expect, it } from 'vitest';
import { ATOM, CAO_PER_DEGREE, MOLECULE } from '../../catalogue';
import { SHIPPED_METHODS } from '.';

/** mg (of degrees, 10 mg of CaO) that one mmol of titrant stands for. */
const PER_MMOL: Record<string, number> = {
	alkalinity: MOLECULE.CaO / 2 / CAO_PER_DEGREE,
	calcium: ATOM.Ca,
	magnesium: ATOM.Mg,
	potassium: ATOM.K,
	hardness: MOLECULE.CaO / CAO_PER_DEGREE
};

const titrations = SHIPPED_METHODS.filter((m) => m.reads === 'syringe' || m.reads === 'drops');
it.each(titrations.map((m) => [m.id, m] as const))('the factor of %s follows from its own steps', (_, m) => {
	if (m.reads !== 'syringe' && m.reads !== 'drops') return;
	const words = (m.steps ?? []).map((s) => s.text);
	const volume = (pattern: RegExp): number | undefined => {
		const found = words.map((w) => pattern.exec(w)?.[1]).find((v) => v !== undefined);
		return found === undefined ? undefined : Number(found);
	};
	const molar = Number(/([\d.]+) mol\/L/.exec(m.notes!)![1]);
	const drawn = volume(/^Draw ([\d.]+) mL/) ?? m.samples![0]!.ml;
	expect(drawn, 'the sample is what is drawn').toBe(m.samples![0]!.ml);
	// Of what was topped up a part is taken: it holds as much of the sample.
	const whole = volume(/Top up to ([\d.]+) mL/);
	const taken = volume(/Take exactly ([\d.]+) mL/);
	const titrated = whole && taken ? drawn * (taken / whole) : drawn;
	const perMl = (molar / titrated) * 1000 * PER_MMOL[m.parameter]!;
	const drop = Number(/drops of ([\d.]+) mL/.exec(m.notes!)?.[1]);
	const { scale } = m;
	if (scale.kind === 'table') {
		const [first, last] = [scale.points[0]!, scale.points.at(-1)!];
		expect(Math.abs((last[1] - first[1]) / (last[0] - first[0])) / perMl).toBeCloseTo(1, 3);
	} else expect(('perDrop' in scale ? scale.perDrop / drop : scale.perMl) / perMl).toBeCloseTo(1, 3);
});
