import { readFile } from 'node:fs/promises';
import type { PageServerLoad } from './$types';

interface Notice {
	name: string;
	version: string;
	licence: string;
}

/** What the build noted; nothing while one works on the code without a build. */
export const load: PageServerLoad = async () => {
	const file = process.env['TEVRIK_NOTICES'];
	const notices = file ? (JSON.parse(await readFile(file, 'utf8')) as Notice[]) : [];
	return { notices: notices.map(({ name, version, licence }) => ({ name, version, licence })) };
};
