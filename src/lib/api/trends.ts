import type { TrendResult } from '../../core/trend';

/** What is shown of one parameter where there is little room. */
export type TrendInShort = Omit<TrendResult, 'path' | 'offsets'>;
