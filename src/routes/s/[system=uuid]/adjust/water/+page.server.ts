import { CONSTANTS_HOLD, lowPh } from '$core/seawater';
import { latestReadings } from '$lib/server/stores/readings';
import { planFor } from '$lib/server/answers/plans';
import { supplementsOf } from '$lib/server/stores/supplements';
import { outlookOf } from '$lib/server/answers/outlook';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, parent, locals: { asker } }) => {
	const { system, bands } = await parent();
	const [{ request }, shelf, { trends }] = await Promise.all([
		planFor(asker, params.system, {}),
		supplementsOf(asker),
		outlookOf(asker, params.system)
	]);
	const { ph, alkalinity, salinity, temperature } = trends;
	const planned = request.parameters.map((p) => p.parameter);
	const latest = await latestReadings(asker, params.system, planned, 1);
	const psu = salinity?.now.value ?? system.salinityPsu;
	const asked =
		ph && alkalinity && psu >= CONSTANTS_HOLD.from && psu <= CONSTANTS_HOLD.to
			? lowPh({
					ph: ph.now.value,
					alkalinity: alkalinity.now.value,
					salinity: psu,
					temperatureC: temperature?.now.value ?? request.water.temperatureC,
					standardUncertainty: {
						ph: ph.now.standardDeviation,
						alkalinity: alkalinity.now.standardDeviation
					},
					...(bands['ph'] ? { band: { lower: bands['ph'].lower, upper: bands['ph'].upper } } : {})
				})
			: undefined;
	return {
		levels: request.parameters.map(({ parameter, now }) => ({
			parameter,
			now,
			scatter: latest[parameter]?.[0]?.repeatability ?? null,
			// With what dosing pumps give: what is changed is what the tank does by itself.
			netPerDay: trends[parameter]?.netPerDay ?? null
		})),
		volumeError: request.water.volumeL.standardUncertainty,
		shelf,
		low: asked?.ok ? { ...asked.value, ph: ph!.now.value } : null
	};
};
