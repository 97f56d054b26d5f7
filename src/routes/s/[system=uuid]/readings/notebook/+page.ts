import { received } from '$lib/api/known-methods';
import type { PageLoad } from './$types';

export const load: PageLoad = ({ data }) => ({ ...data, methods: received(data.methods) });
