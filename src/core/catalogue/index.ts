export * from './catalogue';
export * from './masses';
export {
	PHASES,
	SCHOOL_IDS,
	type Parameter,
	type Phase,
	type Restlessness,
	type SchoolId,
	type Target,
	type Trait
} from './parameter';
export * from './salinity-scales';
export type { Unit } from './unit';
export { lexicon } from './words';
export { ratio } from './unit';
