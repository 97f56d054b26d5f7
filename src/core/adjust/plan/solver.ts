/** A mixed-integer linear programme as text (CPLEX LP format) to its solution. */
export interface Solver {
	solve: (
		problem: string,
		options?: {
			time_limit?: number;
			mip_rel_gap?: number;
			mip_max_nodes?: number;
			random_seed?: number;
			output_flag?: boolean;
			presolve?: 'on' | 'off';
		}
	) => { Status: string; ObjectiveValue: number; Columns: Record<string, { Primal?: number }> };
}

let loading: Promise<Solver> | undefined;
let loaded: Solver | undefined;

/**
 * HiGHS (Huangfu & Hall 2018, Math. Prog. Comp. 10, 119) as WebAssembly. `wasm` says where its code lies, for pages; without it the
 * package finds its own.
 */
export function loadSolver(wasm?: string): Promise<Solver> {
	loading ??= import('highs').then(
		async ({ default: load }) =>
			(loaded = (await load(wasm === undefined ? {} : { locateFile: () => wasm })) as unknown as Solver)
	);
	return loading;
}

/** The solver once it is there; whoever needs it waits for `loadSolver` first. */
export function loadedSolver(): Solver {
	if (!loaded) throw new Error('the solver is not loaded yet');
	return loaded;
}
