/** A text as a sentence of its own: it begins large. */
export function begun(text: string): string {
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}`;
}

/** The same, with a full stop. */
export function sentence(text: string): string {
  return text.endsWith('.') ? begun(text) : `${begun(text)}.`;
}
