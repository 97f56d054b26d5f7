import { parameterOf } from '$core/catalogue';
import { amountIn, changeIn } from '$core/quick';
import { COVERAGE_95 } from '$core/statistics';
import { measuredVolume, type MeasuredVolumeResult } from '$core/tank';
import { unitFor } from '$lib/ui/habits';
import { changeFrom } from '$lib/ui/mine';
import type { PourableBottle } from './pour-draft';
import type { WaterLevel } from './water-level';

/** A volume that is measured by a pour, as it is typed. */
export interface VolumeDraft {
	poured: string;
	before: string;
	after: string;
	/** Half of a 95 % interval of one test; empty: as the newest test. A constant error of the kit is in both tests and does not count. */
	kit: string;
}
type Wrong = { at: keyof VolumeDraft; says: string };

/** Standard uncertainty of one test as a share of its result, where none is typed and none was read: a drop of the fifty that a titration takes. */
const USUAL_ERROR = 0.02;

/** The volume that a pour and two tests say; the field that is wrong with its reason; undefined until all three are typed. */
export function volumeOf(
	{ main, brings: { per, raises, relativeError } }: PourableBottle,
	typed: VolumeDraft,
	levels: Pick<WaterLevel, 'parameter' | 'scatter'>[],
	estimate: { value: number; standardUncertainty: number }
): MeasuredVolumeResult | Wrong | undefined {
	if (![typed.poured, typed.before, typed.after].every((text) => text.trim())) return undefined;
	const level = (text: string) => amountIn(text, main, parameterOf(main)!.unit, unitFor(main));
	const wrong = (at: keyof VolumeDraft, problems: { message: string }[]): Wrong => ({
		at,
		says: problems[0]?.message ?? 'is not a number'
	});
	const amount = amountIn(typed.poured, per === 'g' ? 'mass' : 'volume', per);
	if (!amount.ok) return wrong('poured', amount.problems);
	const before = level(typed.before);
	if (!before.ok) return wrong('before', before.problems);
	const after = level(typed.after);
	if (!after.ok) return wrong('after', after.problems);
	const kit = typed.kit.trim() ? changeIn(typed.kit, main, unitFor(main)) : undefined;
	if (kit && !kit.ok) return wrong('kit', kit.problems);
	if (kit && !(kit.value > 0)) return { at: 'kit', says: 'must be more than nothing' };
	const added = amount.value * (raises[main] ?? 0);
	if (!(added > 0)) return { at: 'poured', says: 'must be more than nothing' };
	const u = kit
		? Math.abs(changeFrom(main, kit.value, before.value)) / COVERAGE_95
		: (levels.find((l) => l.parameter === main)?.scatter ?? USUAL_ERROR * before.value);
	const found = measuredVolume({
		added: { value: added, standardUncertainty: relativeError * added },
		before: { value: before.value, standardUncertainty: u },
		after: { value: after.value, standardUncertainty: u },
		estimate
	});
	return found.ok ? found.value : wrong('after', found.problems);
}
