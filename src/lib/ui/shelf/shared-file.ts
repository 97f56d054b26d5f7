import type { Problem } from '$core/base';

/** Bytes: a method or something to pour is a few thousand. */
const LARGEST = 200_000;

/**
 * Hands on what a file holds that was chosen in a field, and gives what is wrong with it, each with the file's name before its place.
 * The field is ready for the same file again.
 */
export async function takeFile(
	event: Event,
	put: (profile: unknown) => Promise<Problem[]>
): Promise<Problem[]> {
	const input = event.currentTarget as HTMLInputElement;
	const file = input.files?.[0];
	input.value = '';
	if (!file) return [];
	return (await wrongWith(file, put)).map(({ path, message }) => ({
		path: `${file.name} ${path}`.trim(),
		message
	}));
}

async function wrongWith(file: File, put: (profile: unknown) => Promise<Problem[]>): Promise<Problem[]> {
	if (file.size > LARGEST)
		return [{ path: '', message: 'is too large: what is shared here is a few kilobytes' }];
	let profile: unknown;
	try {
		profile = JSON.parse(await file.text());
	} catch {
		return [{ path: '', message: 'is not a JSON file' }];
	}
	return put(profile);
}
