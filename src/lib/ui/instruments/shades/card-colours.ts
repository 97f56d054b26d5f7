import type { Method } from '$core/instruments';
import { call } from '$lib/client/api';
import { saveMethod } from '$lib/client/commands';

/**
 * Makes a photographed card's colours those of the kit, as its next version; what was read by it stays. Nothing for methods without a
 * card. The answer is a sentence.
 */
export function cardColours(
	method: Method,
	methodId: string
): ((colours: string[]) => Promise<string>) | undefined {
	if (method.reads !== 'shades') return undefined;
	return async (colours) => {
		const held = await call<{ methods: { id: string; version: number; own?: boolean; profile: Method }[] }>(
			'GET',
			'/api/v1/methods'
		);
		const kit = held.ok ? held.value.methods.find((m) => m.id === methodId && m.own) : undefined;
		if (kit?.profile.reads !== 'shades')
			return 'Only your own kits can be drawn in colours of your own: make it yours on the shelf first.';
		const saved = await saveMethod(methodId, {
			profile: { ...kit.profile, colours },
			basedOn: kit.version
		});
		return saved.ok
			? 'The card on the screen has these colours from the next time on.'
			: saved.problems[0]!.message;
	};
}
