export * from './downsample';
