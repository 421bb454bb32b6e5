import { describe, expect, test } from 'vitest';
import table from '../../../tests/core/typed/values.json';
import { formatValue } from '../workbench/values/values';
import { readValue, type Known, type Measured } from './values';

interface Row {
  of: string;
  parameter: Measured;
  known: Known;
  understood: Record<string, number>;
  refused: Record<string, string>;
}

const rows = table as unknown as Row[];

describe.each(rows)('$of', ({ parameter, known, understood, refused }) => {
  test('is understood as it is meant', () => {
    for (const [text, value] of Object.entries(understood)) {
      const found = readValue(parameter, text, known);
      expect(found.why, text).toBeUndefined();
      expect(found.value, text).toBeCloseTo(value, 9);
    }
  });

  test('what is none of its values is refused, and why is told as the core tells it', () => {
    for (const [text, why] of Object.entries(refused))
      expect(readValue(parameter, text, known), text).toEqual({ why });
  });

  test('what is shown can be typed', () => {
    for (const value of [parameter.low, parameter.high, parameter.default ?? parameter.low])
      expect(readValue(parameter, formatValue(parameter, value), known).why).toBeUndefined();
  });
});
