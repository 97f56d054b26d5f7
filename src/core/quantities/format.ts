/**
 * Decimals at which the first uncertain digit stands, given an error in the same unit. 0.33 gives 1, 12 gives -1.
 *
 * @example decimalsOf(0.3) // → 1
 */
export function decimalsOf(error: number): number {
	if (!(error > 0) || !Number.isFinite(error)) return 2;
	const exponent = Math.floor(Math.log10(error));
	// 0.096 rounds to 0.1: the digit stands one place further left.
	const rounded = Math.round(error / 10 ** exponent) >= 10 ? exponent + 1 : exponent;
	return Math.max(-6, Math.min(9, 0 - rounded));
}

/**
 * A number at so many decimals (negative: rounded to tens, hundreds), with a true minus sign and no "-0".
 *
 * @example formatNumber(8.15, 1) // → '8.2'
 */
export function formatNumber(value: number, decimals: number): string {
	const step = 10 ** -decimals;
	const text = decimals > 0 ? value.toFixed(decimals) : String(Math.round(value / step) * step);
	return /^-0\.?0*$/.test(text) ? text.slice(1) : text.replace('-', '−');
}

/**
 * A measured number without noise digits: "8.1" and "0.3" for 8.13 with a 95 % half-width of 0.33.
 *
 * @example formatMeasured(8.114, 0.27) // → { value: '8.1', error: '0.3' }
 */
export function formatMeasured(value: number, halfWidth: number): { value: string; error: string } {
	const decimals = decimalsOf(halfWidth);
	return { value: formatNumber(value, decimals), error: formatNumber(halfWidth, decimals) };
}

/** How a unit is written for people. */
const WRITTEN: Record<string, string> = {
	'ug/L': 'µg/L',
	'ug/L PO4': 'µg/L PO₄',
	'ug/L P': 'µg/L P',
	'umol/L': 'µmol/L',
	'ppm CaCO3': 'ppm CaCO₃',
	'mg/L NO3': 'mg/L NO₃',
	'mg/L NO3-N': 'mg/L NO₃-N',
	'mg/L NO2': 'mg/L NO₂',
	'mg/L NO2-N': 'mg/L NO₂-N',
	'mg/L NH3': 'mg/L NH₃',
	'mg/L NH4': 'mg/L NH₄',
	'mg/L PO4': 'mg/L PO₄',
	'mg/L PO4-P': 'mg/L PO₄-P',
	'mS/cm 25C': 'mS/cm at 25 °C',
	'SG 60/60F': 'SG 60/60 °F',
	C: '°C',
	F: '°F',
	pH: ''
};
/** @example formatUnit('mg/L NO3') // → 'mg/L NO₃' */
export const formatUnit = (unit: string): string => WRITTEN[unit] ?? unit;
