/** An effect as one types it: "reverb 6s", "muffle 3f −12dB": its name, and values by their units. */
import type { EffectTable } from '../../api/client';
import { formatValue, readValue } from './values';

export interface Wanted {
  /** What is left to search by. */
  words: string;
  /** Numbers with their units, as typed. */
  values: string[];
  /** Ramps in frames: one for both, or one each. */
  frames: number[];
}

const NUMBER = /[-−+]?\d+(?:[.,]\d+)?\s*(?:khz|hz|ms|s|db|%|f)(?![a-z])/gi;

export function readWanted(text: string): Wanted {
  const found = text.match(NUMBER) ?? [];
  const frames = found.filter((v) => /f$/i.test(v)).map((v) => Math.round(Math.abs(parseFloat(v))));
  return {
    words: text.replace(NUMBER, ' ').replace(/[,;]/g, ' ').trim().replace(/\s+/g, ' '),
    values: found.filter((v) => !/f$/i.test(v)),
    frames: frames.slice(0, 2),
  };
}

/** The parameters of an effect that the values are meant for: each the first of its unit. */
export function paramsFor(table: EffectTable, wanted: Wanted): Record<string, number> {
  const params: Record<string, number> = {};
  for (const text of wanted.values) {
    const unit = /[a-z%]+$/i.exec(text)![0].toLowerCase();
    const units = { khz: ['Hz'], hz: ['Hz'], s: ['s', 'ms'], ms: ['ms', 's'], db: ['dB'] }[unit];
    const free = table.parameters.filter((p) => p.movable && !(p.id in params));
    const of = (u: string) => free.find((p) => p.unit === u);
    const parameter = (units ?? ['%']).map(of).find((p) => p !== undefined);
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
