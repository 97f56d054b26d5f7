export * from './demo';
export * from './instrument';
export * from './random';
export * from './tank';
export * from './misread';
export * from './watched';
