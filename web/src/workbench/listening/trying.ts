/**
 * Effects and presets are heard before they are added: over a loop, as loud as the reel, and
 * without an edit. Whoever leaves finds everything as it was.
 */
import { create } from 'zustand';
import type { Against } from '../../player/against';
import type { Heard } from '../../player/messages';
import { usePlayer, type Player } from '../../player/player';
import { useSession, type Command } from '../../reel/session';

interface Span {
  start: number;
  end: number;
}

interface Before {
  against: Against;
  side: Heard;
  loop: Span | undefined;
  playing: boolean;
  position: number;
}

interface Trying {
  before: Before | undefined;
  /** What Enter makes an edit; none where a list takes it itself. */
  pending: { label: string; commands: readonly Command[] } | undefined;
}

export const useTrying = create<Trying>()(() => ({ before: undefined, pending: undefined }));

/**
 * Let the reel be heard with these edits; `kept` if Enter is to make them, `plain` if how loud it
 * becomes by them is part of what is tried.
 */
export function tryOut(
  player: Player,
  label: string,
  commands: readonly Command[],
  span: Span,
  kept = false,
  plain = false,
) {
  const { against, side, loop, playing, position } = usePlayer.getState();
  const { before } = useTrying.getState();
  if (!before) {
    useTrying.setState({ before: { against, side, loop, playing, position } });
    if (!loop && span.end > span.start) player.setLoop(span);
  }
  useTrying.setState({ pending: kept ? { label, commands } : undefined });
  player.setAgainst({ label, state: { commands }, of: `try:${label}`, plain });
  player.setSide('other');
  if (!playing) void player.play(loop ? undefined : span.start);
}

/** Everything is as it was before the first try. */
export function stopTrying(player: Player) {
  const { before } = useTrying.getState();
  if (!before) return;
  useTrying.setState({ before: undefined, pending: undefined });
  player.setSide(before.side);
  player.setAgainst(before.against);
  player.setLoop(before.loop);
  if (before.playing) return;
  player.pause();
  player.seek(before.position);
}

/** What is being tried becomes an edit. */
export async function take(player: Player) {
  const { pending } = useTrying.getState();
  stopTrying(player);
  if (pending) await useSession.getState().edit(pending.commands);
}

function isTyping(target: EventTarget | null): boolean {
  return target instanceof HTMLInputElement && target.type !== 'range';
}

/** Enter takes and Escape leaves what is tried by the keys; gives what ends that. */
export function takeByKeys(player: Player): () => void {
  const press = (e: KeyboardEvent) => {
    if (!useTrying.getState().pending || isTyping(e.target)) return;
    if (e.key === 'Enter') void take(player);
    else if (e.key === 'Escape') stopTrying(player);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  window.addEventListener('keydown', press, true);
  return () => {
    window.removeEventListener('keydown', press, true);
    useTrying.setState({ before: undefined, pending: undefined });
  };
}
