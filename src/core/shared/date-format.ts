const known = new Map<string, Intl.DateTimeFormat>();
const mostKnown = 500;

/** A formatter, made once: making one takes a hundred times as long as using it, and a list says hundreds of moments. */
export function dateFormat(locale: string, options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  const key = `${locale} ${JSON.stringify(options)}`;
  const there = known.get(key);
  if (there) return there;
  const made = new Intl.DateTimeFormat(locale, options);
  if (known.size >= mostKnown) known.clear();
  known.set(key, made);
  return made;
}
