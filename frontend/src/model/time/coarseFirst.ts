/** The same things, first some that lie far apart, then those halfway between: so that soon one of
 * them is near every place. */
export function coarseFirst<T>(all: readonly T[]): T[] {
  const order = new Set<number>();
  for (let apart = 2 ** Math.ceil(Math.log2(Math.max(all.length, 1))); apart >= 1; apart /= 2)
    for (let i = Math.floor(apart / 2); i < all.length; i += apart) order.add(i);
  return [...order].map((i) => all[i]!);
}
