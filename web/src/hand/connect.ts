/** Joins the session, the player and the worker that asks for what is heard. */
import { unstable_batchedUpdates } from 'react-dom';
import { create } from 'zustand';
import { usePlayer, type Player } from '../player/player';
import type { FromSupply } from '../player/supply';
import { useSession } from '../reel/session';
import { useHand } from './gesture';
import { HeardFirst } from './heardFirst';
import type { DrawingData, DrawnEffect, FromHand, ToHand } from './messages';

/** The drawing of the effect that the hand is on. */
export const useDrawn = create<{
  of: DrawnEffect | undefined;
  drawing: DrawingData | null | undefined;
}>()(() => ({ of: undefined, drawing: undefined }));

/** The worker in which what is heard is asked for. */
export function startSupply(): Worker {
  return new Worker(new URL('./supply.worker.ts', import.meta.url), {
    type: 'module',
    name: 'bathyphon-supply',
  });
}

/** Let drafts of a reel be seen and heard; gives what ends that. */
export function connectHand(reel: string, rate: number, player: Player): () => void {
  const { supply } = player;
  const tell = (message: ToHand) => supply.postMessage(message);
  const { protocol, host } = window.location;
  const scheme = protocol === 'https:' ? 'wss' : 'ws';
  tell({ type: 'call', path: `${scheme}://${host}/api/reels/${reel}/hand`, rate });

  let serial = 0;
  const drafted = () => {
    const { draft, revision } = useSession.getState();
    if (!draft) return;
    const { commands, sentAs: sent, upon } = draft;
    const { drawing } = useHand.getState();
    const at = Math.max(0, Math.round(usePlayer.getState().position));
    tell({ type: 'draft', serial, commands, revision, drawing, sent, upon, at });
  };
  /** The draft of which sound is taken, even if it has just become an edit; 0 for none. */
  let heard = 0;
  const letHand = (which: number) => {
    heard = which;
    player.letHand(which);
  };
  const first = new HeardFirst();
  useSession.setState({
    heard: (commands) =>
      usePlayer.getState().playing ? first.wait(serial, commands) : Promise.resolve(),
  });
  const leave = [
    useSession.subscribe((now, before) => {
      if (now.draft && !before.draft) letHand(++serial);
      const revised = now.revision !== before.revision;
      const sent =
        now.draft?.sentAs !== before.draft?.sentAs || now.draft?.upon !== before.draft?.upon;
      if (now.draft?.commands !== before.draft?.commands || revised || sent) drafted();
      if (now.draft || !(before.draft || (revised && heard))) return;
      // What is on its way is the sound of the edit that it has become, until there is another one.
      const kept = revised && before.draft !== undefined;
      tell({ type: 'over', kept });
      if (!kept) letHand(0);
      useDrawn.setState({ of: undefined, drawing: undefined });
      // What has become an edit is heard as one; what has been given up is not heard any longer.
      if (!revised) player.dropDraft();
    }),
  ];
  const seen = ({ data }: MessageEvent<FromHand | FromSupply>) => {
    if (data.type === 'heard') first.heard(data.serial, data.commands);
    if (data.type === 'seen' && data.serial === heard && useSession.getState().draft)
      unstable_batchedUpdates(() => {
        const { revision, patch, derived, of, drawing } = data;
        useSession.getState().showDraft({ revision, patch }, derived ?? undefined);
        if (of && sameEffect(useHand.getState().drawing, of)) useDrawn.setState({ of, drawing });
      });
  };
  supply.addEventListener('message', seen);
  return () => {
    supply.removeEventListener('message', seen);
    tell({ type: 'hang-up' });
    for (const l of leave) l();
    useSession.setState({ heard: undefined });
  };
}

function sameEffect(a: DrawnEffect | undefined, b: DrawnEffect): boolean {
  return a?.owner === b.owner && a.effect === b.effect;
}
