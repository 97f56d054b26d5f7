/** A place in a list. */
export const match = (param: string): boolean => /^[0-9]{1,4}$/.test(param);
