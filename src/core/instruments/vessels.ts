/** What volumes for a dilution are drawn with. */
export const DILUTION_VESSELS = ['syringe-1', 'syringe-5', 'pipette', 'line'] as const;
