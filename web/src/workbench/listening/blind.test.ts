// @vitest-environment jsdom
import { describe, expect, it } from 'vitest';
import { usePlayer, type Player } from '../../player/player';
import { answer, begin, byChance, end, hear, useBlind } from './blind';

const player = {
  setSide: (side: 'treated' | 'other') => usePlayer.setState({ side }),
} as unknown as Player;

describe('a blind comparison', () => {
  it('counts what was preferred, whichever letter it had', () => {
    begin(player);
    for (let k = 0; k < 40; k++) answer(player, useBlind.getState().treated);
    answer(player, 'alike');
    end(player);
    expect(useBlind.getState().told).toEqual({ treated: 40, other: 0, alike: 1 });
  });

  it('draws both orders, and lets each letter be heard', () => {
    const seen = new Set<string>();
    begin(player);
    for (let k = 0; k < 60; k++) {
      const { treated } = useBlind.getState();
      seen.add(treated);
      hear(player, 'B');
      expect(usePlayer.getState().side).toBe(treated === 'B' ? 'treated' : 'other');
      answer(player, 'A');
    }
    expect(seen.size).toBe(2);
    end(player);
    expect(usePlayer.getState().side).toBe('treated');
  });

  it('says how likely guessing does the same', () => {
    expect(byChance({ treated: 9, other: 1, alike: 3 })).toBeCloseTo(0.0215, 4);
    expect(byChance({ treated: 5, other: 5, alike: 0 })).toBe(1);
    expect(byChance({ treated: 0, other: 0, alike: 2 })).toBe(1);
  });
});
