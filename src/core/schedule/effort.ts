/** Partial plans looked at at most, and where the request does not say: about two seconds' worth on a slow machine. */
export const MOST_EFFORT = 60_000;
