/** Maps one after the other: a transaction has one connection, and it takes one query at a time. */
export async function inOrder<T, R>(items: readonly T[], each: (item: T) => Promise<R>): Promise<R[]> {
  const out: R[] = [];
  for (const item of items) out.push(await each(item));
  return out;
}
