/**
 * Reading a value as people type it: understood as it is meant, or refused with the reason.
 *
 * By the rules of `core/typed/values.py`, whose table of spellings this reads; both are tried on
 * `tests/core/typed/values.json`.
 */
import type { ParameterTable } from '../api/client';
import { formatValue } from '../workbench/values/values';
import table from './spellings.json';

export type Measured = Pick<
  ParameterTable,
  'label' | 'unit' | 'low' | 'high' | 'scale' | 'default' | 'whole'
>;

/** Milliseconds of one frame, metre and beat, as far as they are known where one types. */
export type Known = Partial<Record<'f' | 'm' | 'beat', number>>;

/** What was understood, or why it was not. */
export type Reading<T = number> =
  { value: T; why?: undefined } | { value?: undefined; why: string };

const UNITS: Record<string, { measure: string; size: number }> = table.units;
const SPELLINGS: Record<string, Record<string, number>> = table.spellings;
const ELSEWHERE: Record<string, string[]> = table.elsewhere;
const SIDES: Record<string, number> = table.sides;
const SWITCH: Record<string, number> = table.switch;
const NUMBER = /^([+-]?) ?(\d+(?:[.,]\d+)?|[.,]\d+)(?: ?\/ ?(\d+))? ?(.*)$/;
const GROUPED = /^[1-9]\d{0,2},\d{3}$/;
const SILENCE_DB = -96;
/** Share by which a value that was converted may lie beyond a bound that it means. */
const MARGIN = 1e-9;

export function readValue(p: Measured, text: string, known: Known = {}): Reading {
  const written = plainly(text);
  const named = namedValue(p, written);
  if (named !== undefined) return { value: named };
  const found = NUMBER.exec(written);
  if (!found) return { why: other(p, text, known) };
  const [, sign, digits = '', under, word = ''] = found;
  if (GROUPED.test(digits))
    return {
      why: `“${digits}” can mean ${digits.replace(',', '.')} or ${digits.replace(',', '')}: type one of these`,
    };
  const size = Number(digits.replace(',', '.')) / Number(under ?? 1);
  if (!Number.isFinite(size)) return { why: other(p, text, known) };
  const converted = convert(p, sign === '-' ? -size : size, word.trim(), known);
  if (!converted) return { why: other(p, text, known) };
  return fitting(p, converted.value, converted.from !== p.unit, text);
}

/** A text in small letters, with single spaces and one kind of minus. */
export function plainly(text: string): string {
  return text
    .replace(/[−–]/g, '-')
    .replace(/∶/g, ':')
    .toLowerCase()
    .split(/\s+/)
    .filter(Boolean)
    .join(' ');
}

/** How a parameter's values can be written, as one says it. */
export function unitsOf(p: Measured, known: Known = {}): string[] {
  const measure = UNITS[p.unit]?.measure;
  if (measure === 'time') {
    const names = { f: 'f', m: 'm', beat: 'beats' };
    const there = (['f', 'm', 'beat'] as const).filter((key) => known[key] !== undefined);
    const rest = ['ms', 's'].filter((name) => name !== p.unit);
    const first = p.unit === 's' ? ['s', 'ms'] : [p.unit, ...rest];
    return [...first, ...there.map((key) => names[key]).filter((name) => !first.includes(name))];
  }
  if (measure === 'level') return takesPercent(p) ? ['dB', '%'] : ['dB'];
  if (measure === 'frequency') return [p.unit, 'kHz'];
  if (measure === 'pitch') return [p.unit, p.unit === 'st' ? 'ct' : 'st'];
  return [p.unit];
}

/** Words as a sentence lists them: "ms, s or f". */
export function listed(words: readonly string[], last = 'or'): string {
  const first = words.slice(0, -1);
  return first.length ? `${first.join(', ')} ${last} ${words.at(-1)}` : (words[0] ?? '');
}

/** The value that a word stands for, if it does. */
function namedValue(p: Measured, written: string): number | undefined {
  if (table.silent.includes(written) && p.unit === 'dB' && p.low <= SILENCE_DB)
    return Math.max(p.low, SILENCE_DB);
  if (p.whole && p.low === 0 && p.high === 1 && Object.hasOwn(SWITCH, written))
    return SWITCH[written];
  if (!hasSides(p)) return undefined;
  if (Object.hasOwn(SIDES, written)) return SIDES[written];
  for (const [side, end] of Object.entries(SIDES)) {
    const found =
      new RegExp(`^${side} ?(\\d+(?:\\.\\d+)?)(?: ?%)?$`).exec(written) ??
      new RegExp(`^(\\d+(?:\\.\\d+)?)(?: ?%)? ?${side}$`).exec(written);
    if (found && end && Number(found[1]) <= 100) return Math.sign(end) * Number(found[1]);
  }
  return undefined;
}

/** The number in the parameter's unit, and in which it was typed; undefined if in none of its. */
function convert(
  p: Measured,
  number: number,
  word: string,
  known: Known,
): { value: number; from: string } | undefined {
  if (!word) return { value: number, from: p.unit };
  const unit = Object.hasOwn(UNITS, p.unit) ? UNITS[p.unit] : undefined;
  if (!unit) return ownWords(p).has(word) ? { value: number, from: p.unit } : undefined;
  if (table.percent.includes(word) && takesPercent(p)) {
    if (number < 0) return undefined;
    return { value: number ? 20 * Math.log10(number / 100) : SILENCE_DB, from: '%' };
  }
  const words = SPELLINGS[unit.measure]!;
  let size = Object.hasOwn(words, word) ? words[word] : undefined;
  const own = p.unit === 'f' ? known.f : unit.size;
  if (unit.measure === 'time') {
    const elsewhere = Object.keys(ELSEWHERE).find((key) => ELSEWHERE[key]!.includes(word));
    if (elsewhere !== undefined && elsewhere === p.unit) return { value: number, from: p.unit };
    if (elsewhere !== undefined) size = known[elsewhere as keyof Known];
  }
  if (size === undefined || own === undefined) return undefined;
  return size === own
    ? { value: number, from: p.unit }
    : { value: (number * size) / own, from: word };
}

/** The value, if the parameter can have it. */
function fitting(p: Measured, value: number, converted: boolean, text: string): Reading {
  let fit = value;
  if (p.whole && !Number.isInteger(value)) {
    if (!converted) return { why: `${p.label} must be a whole number, not “${text.trim()}”` };
    fit = Math.round(value);
  }
  const room = converted ? MARGIN * Math.max(1, Math.abs(p.low), Math.abs(p.high)) : 0;
  if (fit >= p.low - room && fit <= p.high + room)
    return { value: Math.min(p.high, Math.max(p.low, fit)) };
  const [low, high] = [formatValue(p, p.low), formatValue(p, p.high)];
  return { why: `${p.label} must be between ${low} and ${high}, not “${text.trim()}”` };
}

function takesPercent(p: Measured): boolean {
  return p.unit === 'dB' && p.scale === 'db' && p.low < 0;
}

function hasSides(p: Measured): boolean {
  return p.unit === '' && p.low === -100 && p.high === 100;
}

/** What may stand after a number that has no unit: "8 bits", "6 repeats". */
function ownWords(p: Measured): Set<string> {
  const label = p.label.toLowerCase();
  const words = new Set([label, label.replace(/s$/, ''), `${label}s`]);
  if (p.whole) for (const word of ['×', 'x', 'times']) words.add(word);
  if (hasSides(p)) for (const word of table.percent) words.add(word);
  return words;
}

/** The sentence for what is no value of a parameter. */
function other(p: Measured, text: string, known: Known): string {
  const such = formatValue(p, p.default ?? p.low);
  const typed = `“${text.trim()}”`;
  if (!text.trim()) return `${p.label} needs a value, such as ${such}`;
  if (p.unit === ':1') return `give ${p.label} as a ratio such as ${such}, not as ${typed}`;
  if (!Object.hasOwn(UNITS, p.unit)) {
    const [low, high] = [formatValue(p, p.low), formatValue(p, p.high)];
    return `give ${p.label} as a number from ${low} to ${high}, such as ${such}, not as ${typed}`;
  }
  return `give ${p.label} in ${listed(unitsOf(p, known))}, such as ${such}, not as ${typed}`;
}
