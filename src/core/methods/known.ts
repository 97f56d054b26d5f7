/** What volumes for a dilution are drawn with. */
export const DILUTION_VESSELS = ['syringe-1', 'syringe-5', 'pipette', 'line'] as const;

/** Waters that are not alike: what each is likely to show differs. */
export const WATERS = ['tank', 'new mix', 'tap', 'purified', 'reference', 'sea', 'other'] as const;
