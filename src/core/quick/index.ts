export * from './quick';
