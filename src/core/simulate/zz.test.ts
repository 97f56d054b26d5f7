import { beforeAll, it } from 'vitest';
import { loadSolver, type Solver } from '../adjust';
import { USE_LAWS, monthOf, type Month } from './corrected';
let solver: Solver;
beforeAll(async () => { solver = await loadSolver(); });
it('x', () => {
	const all: any = {};
	for (let i = 0; i < 60; i++) {
		const m: any = monthOf(900 + i, USE_LAWS[i % 5]!, 'plan', solver);
		for (const k of Object.keys(m)) all[k] = (all[k] ?? 0) + m[k];
	}
	console.log('MONTHS', JSON.stringify(all));
}, 3600000);
