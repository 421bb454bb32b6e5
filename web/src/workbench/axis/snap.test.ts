import { describe, expect, it } from 'vitest';
import { makeClock } from '../../time/clock';
import { snap, snapTargets } from './snap';

const clock = makeClock('25/1', 48000);
const doc = {
  frame_rate: '25/1',
  sample_rate: 48000,
  picture: { cuts: [100] },
  markers: [{ id: 'k', at: 50000, label: 'knock' }],
  tracks: [{ id: 't', treatments: [{ id: 'f', name: 'Under', start: 96000, length: 9600 }] }],
};

describe('snap', () => {
  const targets = snapTargets(doc, clock, 0);
  it('pulls to a cut that is near', () => {
    expect(snap(192000 + 3000, targets, clock, 1000)).toEqual({ sample: 192000, to: 'cut' });
  });
  it('falls on a frame when nothing is near, or when free', () => {
    expect(snap(150000, targets, clock, 100)).toEqual({ sample: 149760, to: '' });
    expect(snap(192000 + 3000, targets, clock, 1000, true).sample).toBe(195840);
  });
  it('finds markers and edges, and lands on a frame even there', () => {
    expect(snap(50100, targets, clock, 100)).toEqual({ sample: 49920, to: 'knock' });
    expect(snap(96100, targets, clock, 100).to).toBe('Under');
    const others = snapTargets(doc, clock, 0, 'f');
    expect(snap(96100, others, clock, 100).to).toBe('');
  });
});
