export * from './demo';
export * from './instrument';
export * from '../statistics';
export * from './tank';
export * from './misread';
export * from './watched';
export * from './moving';
export * from './coupled';
