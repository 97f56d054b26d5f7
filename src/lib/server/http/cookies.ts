import { DAY, SECOND } from '../../../core/base';

/** How a cookie is kept that knows a device again: for a year, by pages of ours alone; under https by https alone. */
export const keptFor = (protocol: string, path = '/') =>
	({
		path,
		maxAge: (365 * DAY) / SECOND,
		httpOnly: true,
		sameSite: 'lax',
		secure: protocol === 'https:'
	}) as const;
