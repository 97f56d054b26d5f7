import { techniqueFor } from '$core/methods';
import {
	instrumentOf,
	tagged,
	type Dilution,
	type GivenReading,
	type Method,
	type RawReading
} from '$core/instruments';
import { bad, good, type Outcome } from '$core/base';
import { amountIn } from '$core/quick';
import { habits } from '$lib/ui/habits';
import { viewOf } from './all';
import type { DropsDraft } from './drops/draft';
import type { ShadesDraft } from './shades/draft';
import type { ShownDraft } from './shown/draft';
import type { SyringeDraft } from './syringe/draft';

/** What stands on any instrument: what was typed or set, the sample, and how it was thinned. */
interface CommonDraft {
	text: string;
	sampleSize: string;
	/** Thinned before the test: mL of the water, mL of purified water with it. */
	thinnedMl: string;
	withMl: string;
	/** What both were drawn with; empty where nobody says. */
	drawnWith: Dilution['vessel'] | '';
}
/** What stands on an instrument now, as it is kept on the device; fields that its kind does not have stand as they begin. */
export interface Draft extends CommonDraft, SyringeDraft, DropsDraft, ShadesDraft, ShownDraft {}

/** Fields as they begin, where a kind of instrument says nothing else. */
const BEGINNING: Draft = {
	text: '',
	sampleSize: 'full',
	readAs: 'left',
	refills: 0,
	doubtful: 0,
	confirming: 0,
	placed: false,
	column: '',
	temperature: '',
	standard: '',
	standardShown: '',
	thinnedMl: '',
	withMl: '',
	drawnWith: ''
};

export const freshDraft = (method: Method): Draft => ({
	...BEGINNING,
	sampleSize: method.samples?.[0]?.id ?? 'full',
	...viewOf(method).fresh?.(method)
});

/** The raw reading a draft stands for; undefined where nothing is set yet. Problems: what was typed is not understood. */
export function readingOf(method: Method, draft: Draft): Outcome<RawReading> | undefined {
	if (draft.text.trim() === '') return undefined;
	const seen = viewOf(method).read(method, draft);
	const sampleMl = optionalVolume(draft.thinnedMl);
	const waterMl = optionalVolume(draft.withMl);
	if (!seen.ok) return seen;
	const hand = habits().hands?.[techniqueFor(method)];
	const read = hand ? (instrumentOf(method).withTechnique?.(seen.value, hand) ?? seen.value) : seen.value;
	if (sampleMl === undefined && waterMl === undefined) return good(read);
	if (!sampleMl || !waterMl || sampleMl < 0 || waterMl < 0)
		return bad('', 'a dilution needs both: how many mL of the water, with how many mL of purified water');
	const { drawnWith } = draft;
	return good({ ...read, dilution: { sampleMl, waterMl, ...(drawnWith ? { vessel: drawnWith } : {}) } });
}

/** A raw reading as typed: on a method, where one is named, a value from elsewhere as this person counts it. */
export function draftOf(reading: RawReading, method?: Method): Partial<Draft> {
	const { dilution } = reading;
	return {
		...viewOf(reading).typed(reading, method),
		...(dilution
			? {
					thinnedMl: String(dilution.sampleMl),
					withMl: String(dilution.waterMl),
					drawnWith: dilution.vessel ?? ''
				}
			: {})
	};
}
export const draftOn = (method: Method, reading: GivenReading): Partial<Draft> =>
	draftOf(tagged(method, reading), method);

/** Millilitres, in whatever unit they were typed, nothing typed (undefined), or something else (null). */
function optionalVolume(text: string): number | undefined | null {
	if (text.trim() === '') return undefined;
	const volume = amountIn(text, 'volume', 'mL');
	return volume.ok ? volume.value : null;
}
