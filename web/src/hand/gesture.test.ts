// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { usePlayer } from '../player/player';
import { useSession } from '../reel/session';
import { atOnce, begin, makeReady } from './gesture';

const louder = { kind: 'set_clip', gain_db: 3 };
const session = () => useSession.getState();
/** What has been sent as an edit, whether as a draft before or not. */
let sent: unknown[];
/** Lengths of the drafts that have been there, one after another; none is −1. */
let drafts: number[];
let leave: () => void;

beforeEach(() => {
  sent = [];
  drafts = [];
  usePlayer.setState({ playing: true });
  useSession.setState({
    draft: undefined,
    edit: (commands) => {
      sent.push(commands);
      return Promise.resolve(true);
    },
    keepDraft: () => {
      const { draft } = session();
      if (draft?.commands.length) sent.push(draft.commands);
      useSession.setState({ draft: undefined });
      return Promise.resolve(true);
    },
  });
  leave = useSession.subscribe((now, before) => {
    if (now.draft?.commands !== before.draft?.commands)
      drafts.push(now.draft?.commands.length ?? -1);
  });
});
afterEach(() => {
  leave();
  vi.restoreAllMocks();
});

describe('a value that is being typed', () => {
  it('is expected until it is given up', () => {
    const over = makeReady();
    expect(session().draft?.commands).toEqual([]);
    over();
    expect(session().draft).toBeUndefined();
    expect(sent).toEqual([]);
  });

  it('is kept by a gesture that goes on from there, without a break', async () => {
    const over = makeReady();
    expect(await atOnce(louder)).toBe(true);
    over();
    expect(sent).toEqual([[louder]]);
    // Expected, changed, sent: what was made ready has not been let go of in between.
    expect(drafts).toEqual([0, 1, -1]);
  });

  it('does not let go of what another hand holds', () => {
    const over = makeReady();
    const gesture = begin();
    over();
    expect(session().draft?.commands).toEqual([]);
    gesture.update([louder]);
    const none = makeReady();
    none();
    expect(session().draft?.commands).toEqual([louder]);
    gesture.cancel();
    expect(session().draft).toBeUndefined();
  });
});

describe('what is done with one press', () => {
  it('is a draft only while the reel plays', async () => {
    usePlayer.setState({ playing: false });
    await atOnce(louder);
    expect(drafts).toEqual([]);
    usePlayer.setState({ playing: true });
    await atOnce([louder]);
    expect(drafts).toEqual([0, 1, -1]);
    expect(sent).toEqual([louder, [louder]]);
  });
});
