/** One line of the table: what, how much, and against what it was measured in the same run. */
export interface Row {
	what: string;
	measured: string;
	against: string;
}
