/** What matters most to whoever asks for a plan. */
export const WISHES = ['soonest', 'least', 'fewest'] as const;
export type Wish = (typeof WISHES)[number];
