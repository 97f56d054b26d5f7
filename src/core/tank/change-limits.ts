/** What a keeper's water changes may be: a share of the water, days from one to the next, the price of a litre. */
export const CHANGE_LIMITS = {
	fraction: { minimum: 0.01, maximum: 0.9 },
	everyDays: { minimum: 1, maximum: 60 },
	costPerL: { minimum: 0, maximum: 1000 }
};
