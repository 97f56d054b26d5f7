import { expect, it } from 'vitest';
import { hasControls, isForeignForm } from './origin';

const here = new URL('https://reef.example/signin');
const sent = (method: string, headers: Record<string, string>) =>
	isForeignForm(new Request(here, { method, headers }), here);

it('a form comes from our own pages, whatever it calls itself', () => {
	const form = 'application/x-www-form-urlencoded';
	for (const type of [
		form,
		'multipart/form-data; boundary=x',
		'text/plain',
		`${form.toUpperCase()} ; charset=x`
	]) {
		expect(sent('POST', { 'content-type': type, origin: here.origin }), type).toBe(false);
		for (const origin of [
			'https://evil.example',
			'http://reef.example',
			'https://reef.example:8443',
			'null',
			''
		])
			expect(sent('POST', { 'content-type': type, ...(origin ? { origin } : {}) }), `${type} ${origin}`).toBe(
				true
			);
		expect(sent('GET', { 'content-type': type }), type).toBe(false);
	}
	// What a foreign page cannot send without asking first needs no such proof.
	expect(sent('PUT', { 'content-type': 'application/json', origin: 'https://evil.example' })).toBe(false);
});

it('control characters in an address are seen however they are written', () => {
	for (const address of ['/a%09b', '/a%0Ab', '/?to=%0d%0aset-cookie', '/?q=%00', '/a%7F', '/a%1fb'])
		expect(hasControls(new URL(address, here)), address).toBe(true);
	for (const address of ['/a%20b', '/?to=%2Fs%2Fx', '/ä', '/?q=%F0%9F%90%A0', '/%25%30'])
		expect(hasControls(new URL(address, here)), address).toBe(false);
});
