export * from './measured-volume';
export * from './net-volume';
