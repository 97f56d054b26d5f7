import { expect, it } from 'vitest';
import { errorInLog, someone } from './log';

/** Nothing of it is in what the log keeps. */
const silentAbout = (failure: unknown, ...words: string[]) => {
	const line = JSON.stringify(errorInLog(failure));
	for (const word of words) expect(line).not.toContain(word);
	return errorInLog(failure);
};

it('what a database says is kept as its number: its sentence holds what people wrote', () => {
	const cause = Object.assign(new Error("Duplicate entry 'odile@mill.example' for key 'email'"), {
		errno: 1062,
		code: 'ER_DUP_ENTRY'
	});
	const failure = Object.assign(
		new Error('Failed query: insert into user values (?)\nparams: odile@mill.example,secret-token'),
		{ cause, query: 'insert into `user` (`id`, `email`, `name`, `note`) values (?)' }
	);
	const kept = silentAbout(failure, 'odile', 'secret-token', 'Duplicate', 'values');
	expect(kept).toMatchObject({ errno: 1062, code: 'ER_DUP_ENTRY' });
	expect(String(kept['statement']).length).toBeLessThanOrEqual(40);
});

it('a wrapped sentence, an error of several lines, something thrown that is no error', () => {
	silentAbout(new Error('outer', { cause: new Error('a private letter') }), 'a private letter');
	const many = new Error('first\n    of a private letter');
	many.stack = `Error: ${many.message}\n    at here (file.js:1:1)`;
	expect(silentAbout(many)['at']).toEqual(['at here (file.js:1:1)']);
	expect(silentAbout('a private letter', 'a private letter')).toEqual({ type: 'string' });
	expect(String(errorInLog(new Error('x'.repeat(5000)))['message']).length).toBe(300);
});

it('a person has the same letters in every line, and nobody reads who it is', () => {
	process.env['TEVRIK_SECRET'] = 'a secret of the tests, long enough for anyone';
	expect(someone('Odile@Mill.example')).toBe(someone('odile@mill.example'));
	expect(someone('odile@mill.example')).not.toBe(someone('wenna@mill.example'));
	expect(someone('odile@mill.example')).toMatch(/^[\w-]{12}$/);
	const known = someone('odile@mill.example');
	process.env['TEVRIK_SECRET'] = 'another secret of the tests, long enough too';
	expect(someone('odile@mill.example')).not.toBe(known);
	delete process.env['TEVRIK_SECRET'];
});
