import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { HeardFirst } from './heardFirst';

const draft = [{ kind: 'set_clip', gain_db: -6 }];
const other = [{ kind: 'set_clip', gain_db: -7 }];

let first: HeardFirst;
let sent: string[];

/** Waits to send, and notes when it may. */
function send(name: string, serial: number, commands: typeof draft) {
  void first.wait(serial, commands).then(() => sent.push(name));
}

beforeEach(() => {
  vi.useFakeTimers();
  first = new HeardFirst();
  sent = [];
});
afterEach(() => vi.useRealTimers());

describe('an edit that has been a draft', () => {
  it('goes when its sound has come, not when that of the step before it has', async () => {
    send('edit', 1, draft);
    first.heard(1, other);
    await vi.advanceTimersByTimeAsync(50);
    expect(sent).toEqual([]);
    first.heard(1, structuredClone(draft));
    await vi.advanceTimersByTimeAsync(0);
    expect(sent).toEqual(['edit']);
  });

  it('goes at once when it has been heard, but not because the same has been before', async () => {
    first.heard(1, draft);
    send('heard', 1, draft);
    send('again', 2, draft);
    await vi.advanceTimersByTimeAsync(0);
    expect(sent).toEqual(['heard']);
  });

  it('does not wait long for a server that takes its time, nor behind another hand', async () => {
    send('late', 1, draft);
    await vi.advanceTimersByTimeAsync(100);
    send('next', 2, other);
    await vi.advanceTimersByTimeAsync(0);
    expect(sent).toEqual(['late']);
    await vi.advanceTimersByTimeAsync(150);
    expect(sent).toEqual(['late', 'next']);
  });
});
