declare const brand: unique symbol;
export type Brand<T, Name extends string> = T & { readonly [brand]: Name };

/** A UUID that cannot be handed to a place that wants another thing's id. */
export type Id<Name extends string> = Brand<string, `${Name}Id`>;
