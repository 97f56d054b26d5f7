/**
 * What every answer carries, files and refusals too (OWASP Secure Headers Project, 2025). Pages bring a policy of their own
 * in place of this one, which is that of scripts that run as workers: plans are made by a solver that is WebAssembly.
 */
export const SAFE_HEADERS: Record<string, string> = {
	'x-content-type-options': 'nosniff',
	'x-frame-options': 'DENY',
	'referrer-policy': 'same-origin',
	'cross-origin-opener-policy': 'same-origin',
	'cross-origin-resource-policy': 'same-origin',
	'permissions-policy': 'camera=(self), geolocation=(), microphone=(), payment=(), usb=()',
	'content-security-policy':
		"default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; object-src 'none'; base-uri 'none'; frame-ancestors 'none'"
};

/** Once seen by https, by nothing else for a year; with the names below this one where the operator says so (`TEVRIK_HSTS=subdomains`). */
export const httpsOnly = (): string =>
	process.env['TEVRIK_HSTS'] === 'subdomains' ? 'max-age=31536000; includeSubDomains' : 'max-age=31536000';
