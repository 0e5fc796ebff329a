/** A number with what is counted, in the singular where it is one. @param more the plural where it is not made by an s */
export const counted = (n: number, one: string, more = `${one}s`): string => `${n} ${n === 1 ? one : more}`;
