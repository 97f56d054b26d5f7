export * from './growth';
export { complexes, phWith, type Base, type Complexes, type Metal } from './equilibria';
export { INDICATORS, USUAL_INDICATOR, type Indicator, type Titrated } from './indicators';
export * from './schema';
export { seen, type Rgb } from './sight';
export { titration } from './titration';
export {
	SEA,
	dropsFrom,
	endPointOf,
	freshVial,
	lookAt,
	onward,
	type EndPoint,
	type Look,
	type Recipe,
	type Vial,
	type VialWater
} from './vial';
