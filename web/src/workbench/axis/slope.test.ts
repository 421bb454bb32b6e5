import { expect, test } from 'vitest';
import { slope } from './slope';

test('a straight ramp is a line', () => {
  expect(slope({ length: 1, shape: 'linear' }, [0, 0], [30, 40], true)).toBe('L30.0 40.0');
});

test('a smooth one passes its middle half way, whichever way it goes', () => {
  for (const rising of [true, false])
    expect(slope({ length: 1, shape: 'smooth' }, [0, 0], [100, 40], rising)).toContain(
      'L50.0 20.0',
    );
});

test('a logarithmic ramp out falls fast first, as its ramp in rises late', () => {
  const y = (path: string) => Number(path.split('L')[5]!.split(' ')[1]);
  expect(y(slope({ length: 1, shape: 'log' }, [0, 0], [100, 40], true))).toBeLessThan(5);
  expect(y(slope({ length: 1, shape: 'log' }, [0, 40], [100, 0], false))).toBeLessThan(5);
});
