import type { Method } from '../profile';
import { COMPARATORS } from './comparators';
import { INSTRUMENTS } from './instruments';
import { KNOWN_VALUES } from './known-values';
import { TITRATIONS } from './titrations';

/** Methods that come with Tevrik: generic, no maker's; factors follow from titrant strength and sample volume. */
export const SHIPPED_METHODS: Method[] = [...TITRATIONS, ...COMPARATORS, ...INSTRUMENTS, ...KNOWN_VALUES];
