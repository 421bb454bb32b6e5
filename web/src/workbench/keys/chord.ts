/** Keys as they are pressed, written and shown: "Ctrl+Shift+Z". */

const NAMES: Record<string, string> = {
  ' ': 'Space',
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
};

/** What was pressed; nothing for a modifier alone. Letters are capitals, whatever the shift key. */
export function chordOf(e: KeyboardEvent | React.KeyboardEvent): string | undefined {
  if (['Shift', 'Control', 'Alt', 'Meta', 'AltGraph', 'Dead'].includes(e.key)) return undefined;
  const letter = /^[a-z]$/i.test(e.key);
  const named = e.key.length > 1 || e.key === ' ';
  const key = letter ? e.key.toUpperCase() : e.key === ' ' ? 'Space' : e.key;
  const parts = [];
  if (e.ctrlKey || e.metaKey) parts.push('Ctrl');
  if (e.altKey) parts.push('Alt');
  // A sign such as ? is what it is, however one's keyboard comes by it.
  if (e.shiftKey && (letter || named)) parts.push('Shift');
  return [...parts, key].join('+');
}

/** A chord as it is printed. */
export function shown(chord: string): string {
  const parts = chord === '+' ? ['+'] : chord.split('+').map((p) => (p === '' ? '+' : p));
  return parts.map((part) => NAMES[part] ?? part).join(' + ');
}
