/** An effect as one types it: "reverb 6s mix 100%", "muffle 3f −12dB": a name, then its values. */
import type { EffectTable } from '../../api/client';
import { formatValue, readValue } from '../values/values';

export interface Wanted {
  /** What to search by: all before the first value. */
  words: string;
  /** Numbers with their units as typed, and the word before each. */
  values: { word: string; text: string }[];
  /** Ramps in frames: one for both, or one each. */
  frames: number[];
}

const AMOUNT = '[-−+]?\\d+(?:[.,]\\d+)?\\s*(?:khz|hz|ms|s|db|%|f)(?![a-z])';
const FIRST = new RegExp(AMOUNT, 'i');
const VALUES = new RegExp(`([a-z][a-z -]*?)?\\s*(${AMOUNT})`, 'gi');
const UNITS: Record<string, string[]> = { khz: ['Hz'], hz: ['Hz'], s: ['s', 'ms'], ms: ['ms', 's'], db: ['dB'], '%': ['%'] }; // prettier-ignore

export function readWanted(text: string): Wanted {
  const first = FIRST.exec(text);
  const words = (first ? text.slice(0, first.index) : text).replace(/[,;]/g, ' ').trim();
  const found = first ? [...text.slice(first.index).matchAll(VALUES)] : [];
  const frames = found
    .filter((m) => /f$/i.test(m[2]!))
    .map((m) => Math.round(Math.abs(parseFloat(m[2]!.replace('−', '-')))));
  return {
    words: words.replace(/\s+/g, ' '),
    values: found
      .filter((m) => !/f$/i.test(m[2]!))
      .map((m) => ({ word: (m[1] ?? '').trim().toLowerCase(), text: m[2]! })),
    frames: frames.slice(0, 2),
  };
}

/** The parameters that the values are meant for: the one that is named, or the first of its unit. */
export function paramsFor(table: EffectTable, wanted: Wanted): Record<string, number> {
  const params: Record<string, number> = {};
  // Those that tell most come first.
  const order = (id: string) => (table.telling.includes(id) ? table.telling.indexOf(id) : 99);
  const rows = [...table.parameters].sort((a, b) => order(a.id) - order(b.id));
  for (const { word, text } of wanted.values) {
    const units = UNITS[/[a-z%]+$/i.exec(text)![0].toLowerCase()] ?? [];
    const free = rows.filter((p) => p.movable && !(p.id in params) && units.includes(p.unit));
    const parameter =
      (word && free.find((p) => p.label.toLowerCase().startsWith(word))) ||
      units.map((u) => free.find((p) => p.unit === u)).find((p) => p !== undefined);
    const value = parameter && readValue(parameter, text);
    if (parameter && value !== undefined) params[parameter.id] = value;
  }
  return params;
}

/** The same in words, for the one who types: "Decay 6 s, ramps 3 f". */
export function said(table: EffectTable, wanted: Wanted): string {
  const params = paramsFor(table, wanted);
  const parts = table.parameters
    .filter((p) => p.id in params)
    .map((p) => `${p.label} ${formatValue(p, params[p.id]!)}`);
  if (wanted.frames.length) parts.push(`ramps ${wanted.frames.join(' and ')} f`);
  return parts.join(', ');
}
