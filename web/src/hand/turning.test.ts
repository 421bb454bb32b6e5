// @vitest-environment jsdom
import { act, renderHook } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { useSession } from '../reel/session';
import { NUDGED_MS, useTurning } from './turning';

const edits = (value: number) => [{ kind: 'set_clip', gain_db: value }];
/** What has been sent, and what says that it has been recorded, or refused. */
let sent: { value: unknown; decide: (kept: boolean) => void }[];

const session = () => useSession.getState();
const drafted = () => session().draft?.commands[0]?.['gain_db'];
const turning = (stored = 0) =>
  renderHook((s: number) => useTurning({ stored: s, edits }), { initialProps: stored });
const nudged = async (hook: ReturnType<typeof turning>, value: number) =>
  act(() => hook.result.current.settle(value, true));
const later = (ms: number) => act(() => vi.advanceTimersByTimeAsync(ms));

beforeEach(() => {
  vi.useFakeTimers();
  sent = [];
  useSession.setState({
    draft: undefined,
    keepDraft: () => {
      const { draft } = session();
      if (!draft?.commands.length || draft.sentAs) return Promise.resolve(true);
      const sentAs = `edit ${sent.length}`;
      useSession.setState({ draft: { ...draft, sentAs } });
      return new Promise((resolve) => {
        const decide = (kept: boolean) => {
          if (session().draft?.sentAs === sentAs) useSession.setState({ draft: undefined });
          resolve(kept);
        };
        sent.push({ value: draft.commands[0]?.['gain_db'], decide });
      });
    },
  });
});
afterEach(() => {
  vi.useRealTimers();
});

describe('a value that is nudged', () => {
  it('is one gesture for keys that follow one another soon', async () => {
    const hook = turning();
    for (const value of [1, 2, 3]) {
      await nudged(hook, value);
      await later(NUDGED_MS - 50);
    }
    expect(sent).toEqual([]);
    await later(NUDGED_MS);
    expect(sent.map((s) => s.value)).toEqual([3]);
  });

  it('takes a key that comes while the last step is still being recorded', async () => {
    const hook = turning();
    await nudged(hook, 1);
    await later(NUDGED_MS + 10);
    await nudged(hook, 2);
    expect(drafted()).toBe(2);
    await act(async () => sent[0]!.decide(true));
    // What has been recorded takes nothing from the one that has begun since.
    hook.rerender(1);
    expect(hook.result.current.turning).toBe(2);
    await later(NUDGED_MS);
    expect(sent.map((s) => s.value)).toEqual([1, 2]);
  });

  it('goes back to what it was before that step was recorded', async () => {
    const hook = turning(0);
    await nudged(hook, 1);
    await later(NUDGED_MS + 10);
    await nudged(hook, 0);
    expect(drafted()).toBe(0);
    await act(async () => sent[0]!.decide(true));
    hook.rerender(1);
    await later(NUDGED_MS);
    expect(sent.map((s) => s.value)).toEqual([1, 0]);
  });

  it('does nothing where it would stay as it is', async () => {
    const hook = turning(5);
    await nudged(hook, 5);
    expect(session().draft).toBeUndefined();
    await nudged(hook, 6);
    await later(NUDGED_MS + 10);
    await nudged(hook, 6);
    // What is on its way is shown and heard as it is.
    expect(session().draft?.sentAs).toBe('edit 0');
    await later(NUDGED_MS);
    expect(sent.map((s) => s.value)).toEqual([6]);
  });

  it('is not sent once more when something else has let go of it', async () => {
    const hook = turning();
    await nudged(hook, 1);
    await act(async () => session().settle?.());
    await later(2 * NUDGED_MS);
    expect(sent.map((s) => s.value)).toEqual([1]);
  });

  it('goes on though the step before it has been refused', async () => {
    const hook = turning();
    await nudged(hook, 1);
    await later(NUDGED_MS + 10);
    await nudged(hook, 2);
    await act(async () => sent[0]!.decide(false));
    await nudged(hook, 3);
    expect(drafted()).toBe(3);
    await later(NUDGED_MS);
    expect(sent.map((s) => s.value)).toEqual([1, 3]);
  });
});
