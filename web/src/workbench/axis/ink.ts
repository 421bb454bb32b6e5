/** Colours of the theme for canvases. */

const inks = new Map<string, string>();

/** A colour by its name; asking for it makes the browser lay the page out, so it is kept. */
export function inkOf(element: Element, name: string, scheme: string): string {
  const key = `${name} ${scheme}`;
  const known = inks.get(key);
  if (known) return known;
  const ink = getComputedStyle(element).getPropertyValue(name);
  inks.set(key, ink);
  return ink;
}
