export * from './change-limits';
export * from './measured-volume';
export * from './net-volume';
export * from './water-change';
