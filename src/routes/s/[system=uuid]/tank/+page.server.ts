import { fail } from '@sveltejs/kit';
import { v7 as uuid } from 'uuid';
import { bad } from '$core/base';
import { PARAMETERS, inSentence } from '$core/catalogue';
import { netVolume } from '$core/tank';
import { SCHOOLS } from '$core/targets';
import { ChangeSystem, SaveSource, type Role } from '$lib/api/systems';
import { again, amountsOf, typedIn } from '$lib/server/http/form';
import {
	invitationsOf,
	invite,
	membersOf,
	setMember,
	withdrawInvitation
} from '$lib/server/identity/members';
import { bandsOf, changeSystem, saveSource, sourcesOf, systemInFull } from '$lib/server/stores/systems';
import { parse } from '$lib/server/validation';
import { typedAs, unitFor } from '$lib/ui/habits';
import { bandsFor, sizeFields, volumeUnit } from '$lib/ui/mine';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, locals: { asker } }) => {
	const [tank, members, sources] = await Promise.all([
		systemInFull(asker, params.system),
		membersOf(asker, params.system),
		sourcesOf(asker, params.system)
	]);
	const invitations = tank.role === 'owner' ? await invitationsOf(asker, params.system) : [];
	return { tank: { ...tank, bands: bandsFor(tank.bands) }, members, sources, invitations };
};

export const actions: Actions = {
	about: async ({ request, params, locals }) => {
		const typed = await typedIn(request);
		const measured = typed['volume'] === 'measured';
		const amounts = amountsOf();
		const sizes = Object.fromEntries(
			sizeFields().flatMap(({ key, quantity, unit, kept }) =>
				typed[key]?.trim() ? [[key, amounts.read(`/sizes/${key}`, typed[key], quantity, kept, unit)]] : []
			)
		);
		const said = parse(ChangeSystem, {
			name: typed['name']?.trim(),
			timeZone: typed['timeZone']?.trim(),
			phase: typed['phase'],
			salinityPsu: amounts.read('/salinityPsu', typed['salinityPsu'], 'salinity', 'PSU', unitFor('salinity')),
			...(measured
				? {
						netVolumeL: amounts.read('/netVolumeL', typed['netVolumeL'], 'volume', 'L', volumeUnit()),
						sizes: null
					}
				: { sizes })
		});
		const sent = amounts.and(said);
		if (!sent.ok) return again(sent, typed);
		const { value } = sent;
		if (value.sizes) {
			const volume = netVolume(value.sizes);
			if (!volume.ok)
				return again(
					{ ok: false, problems: volume.problems.map((p) => ({ ...p, path: `/sizes${p.path}` })) },
					typed
				);
			value.netVolumeL = Number(volume.value.netVolumeL.toPrecision(4));
		}
		const done = await changeSystem(locals.asker, params.system, value);
		return done.ok ? { said: 'Saved.' } : again(done, typed);
	},
	bands: async ({ request, params, locals }) => {
		const typed = await typedIn(request);
		const bands: Record<string, unknown> = {};
		const amounts = amountsOf();
		const kept = await bandsOf(locals.asker, params.system);
		const before = bandsFor(kept);
		for (const { id, unit } of PARAMETERS) {
			const [lower, upper] = [typed[`${id}.lower`]?.trim(), typed[`${id}.upper`]?.trim()];
			if (lower === undefined || upper === undefined) continue;
			// An edge nobody touched stays what it is, however it is rounded in another unit.
			const edge = (which: 'lower' | 'upper', text: string) =>
				kept[id] && text === typedAs(before[id]![which])
					? kept[id][which]
					: amounts.read(`/bands/${id}/${which}`, text, id, unit, unitFor(id));
			bands[id] = lower || upper ? { lower: edge('lower', lower), upper: edge('upper', upper) } : null;
		}
		const sent = amounts.and(parse(ChangeSystem, { bands, school: typed['school'] }));
		const done = sent.ok ? await changeSystem(locals.asker, params.system, sent.value) : sent;
		return done.ok ? { said: 'The bands are saved.' } : again(done, typed);
	},
	school: async ({ request, params, locals }) => {
		const { school = '' } = await typedIn(request);
		const found = SCHOOLS.find((s) => s.id === school);
		if (!found) return again(bad('/school', 'is not a school known here'));
		// A school has a band for everything: nothing of the keeper's own stays beside it.
		const bands = Object.fromEntries(PARAMETERS.map(({ id }) => [id, null]));
		const sent = parse(ChangeSystem, { school, bands });
		const done = sent.ok ? await changeSystem(locals.asker, params.system, sent.value) : sent;
		return done.ok ? { said: `Bands as ${inSentence(found.title)} has them.` } : again(done);
	},
	water: async ({ request, params, locals }) => {
		const typed = await typedIn(request);
		const sent = parse(SaveSource, {
			systemId: params.system,
			kind: typed['kind'],
			name: typed['waterName']?.trim() ?? ''
		});
		const done = sent.ok ? await saveSource(locals.asker, typed['id'] || uuid(), sent.value) : sent;
		if (done.ok) return { said: 'The water is saved.' };
		return again(
			{
				ok: false,
				problems: done.problems.map((p) => ({ ...p, path: p.path.replace('/name', '/waterName') }))
			},
			typed
		);
	},
	member: async ({ request, params, locals }) => {
		const typed = await typedIn(request);
		const role = typed['role'] ?? '';
		if (!['owner', 'keeper', 'viewer', 'none'].includes(role)) return fail(422, { problems: [] });
		const done = await setMember(
			locals.asker,
			params.system,
			typed['id'] ?? '',
			role === 'none' ? null : (role as Role)
		);
		return done.ok ? { said: role === 'none' ? 'No longer a member.' : `Now ${role}.` } : again(done);
	},
	invite: async ({ request, params, locals, url }) => {
		const role = (await typedIn(request))['role'] === 'viewer' ? 'viewer' : 'keeper';
		const { token } = await invite(locals.asker, params.system, role);
		return { link: `${url.origin}/invite/${token}` };
	},
	withdraw: async ({ request, params, locals }) => {
		await withdrawInvitation(locals.asker, params.system, (await typedIn(request))['id'] ?? '');
		return { said: 'The link lets nobody in any more.' };
	}
};
