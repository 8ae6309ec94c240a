declare const brand: unique symbol;
export type Brand<T, Name extends string> = T & { readonly [brand]: Name };

/** A UUID that cannot be handed to a place that wants another thing's id. */
export type Id<Name extends string> = Brand<string, `${Name}Id`>;
/** Whether a text has the form of an id: a UUID in small letters, as RFC 9562 writes it. */
export const isId = (text: string): boolean => /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/.test(text);
/** One of many ids that come of one: the same for the same number. For forms that stand on a page many times. */
export const nthId = (id: string, number: number): string =>
  `${id.slice(0, -12)}${(number % 0x1_0000_0000_0000).toString(16).padStart(12, "0")}`;
