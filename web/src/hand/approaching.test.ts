// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { usePlayer } from '../player/player';
import { useSession } from '../reel/session';
import { watchApproach } from './approaching';
import { begin, makeReady } from './gesture';

const louder = { kind: 'set_clip', gain_db: 3 };
const drafted = () => useSession.getState().draft?.commands.length;
let leave: () => void;

const part = (id: string) => document.getElementById(id)!;
const sign = (id: string, kind = 'pointerover') =>
  part(id).dispatchEvent(new Event(kind, { bubbles: true }));

beforeEach(() => {
  vi.useFakeTimers();
  document.body.innerHTML = `
    <div data-heard><span id="text">Level</span><button id="mute">M</button></div>
    <button id="play">Play</button>`;
  usePlayer.setState({ playing: true });
  useSession.setState({ draft: undefined });
  leave = watchApproach();
});
afterEach(() => {
  leave();
  vi.useRealTimers();
});

describe('a hand that comes near', () => {
  it.each(['pointerover', 'pointermove', 'focusin', 'keydown'])('makes ready at a %s', (kind) => {
    sign('text', kind);
    sign('play', kind);
    expect(drafted()).toBeUndefined();
    sign('mute', kind);
    expect(drafted()).toBe(0);
  });

  it('does so only while the reel plays', () => {
    usePlayer.setState({ playing: false });
    sign('mute');
    expect(drafted()).toBeUndefined();
    usePlayer.setState({ playing: true });
    expect(drafted()).toBe(0);
    usePlayer.setState({ playing: false });
    expect(drafted()).toBeUndefined();
  });

  it('is taken to do something else once it rests', () => {
    sign('mute');
    vi.advanceTimersByTime(2000);
    sign('mute', 'pointermove');
    vi.advanceTimersByTime(2000);
    expect(drafted()).toBe(0);
    vi.advanceTimersByTime(2000);
    expect(drafted()).toBeUndefined();
  });

  it('may come again after what it has done, which is let through first', () => {
    sign('mute');
    const gesture = begin();
    gesture.update([louder]);
    gesture.cancel();
    sign('mute', 'pointermove');
    expect(drafted()).toBeUndefined();
    vi.advanceTimersByTime(1600);
    expect(drafted()).toBe(0);
  });

  it('is still near where it has pressed and done nothing', () => {
    sign('mute');
    begin().cancel();
    vi.advanceTimersByTime(1);
    expect(drafted()).toBe(0);
  });

  it('leaves alone what is made ready for somebody else', () => {
    const over = makeReady();
    sign('mute');
    vi.advanceTimersByTime(5000);
    expect(drafted()).toBe(0);
    over();
    expect(drafted()).toBeUndefined();
    sign('mute');
    const typed = makeReady();
    typed();
    expect(drafted()).toBe(0);
  });

  it('is not waited for once the reel is left', () => {
    sign('mute');
    leave();
    expect(drafted()).toBeUndefined();
    sign('mute');
    expect(drafted()).toBeUndefined();
  });
});
