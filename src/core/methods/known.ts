/** Waters that are not alike: what each is likely to show differs. */
export const WATERS = ['tank', 'new mix', 'tap', 'purified', 'reference', 'sea', 'other'] as const;
