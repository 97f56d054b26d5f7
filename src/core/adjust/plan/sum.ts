/** A sum of terms; each name stands in it once, as the format asks. */
export class Sum {
	private readonly terms = new Map<string, number>();
	add(factor: number, name: string): this {
		this.terms.set(name, (this.terms.get(name) ?? 0) + factor);
		return this;
	}
	get empty(): boolean {
		return ![...this.terms.values()].some((factor) => Math.abs(factor) > NOTHING);
	}
	/** In lines of a few terms. */
	toString(): string {
		const parts = [...this.terms].flatMap(([name, factor]) =>
			Math.abs(factor) > NOTHING
				? [`${factor < 0 ? '-' : '+'} ${Math.abs(factor).toPrecision(12)} ${name}`]
				: []
		);
		const lines: string[] = [];
		for (let i = 0; i < parts.length; i += 8) lines.push(parts.slice(i, i + 8).join(' '));
		return lines.join('\n ');
	}
}
const NOTHING = 1e-12;

/** One row of a programme: what a sum may come to. */
export type Row = (sum: Sum, sign: '<=' | '>=' | '=', right: number) => void;
