export * from './card';
export * from './card-photograph';
export * from './spectra';
export * from './syringe-photograph';
