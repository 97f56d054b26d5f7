export { isLab, labOf } from './evidence';
export * from './proved';
export * from './report';
