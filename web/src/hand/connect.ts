/** Joins the session, the player and the worker that asks for what a hand is doing. */
import { unstable_batchedUpdates } from 'react-dom';
import { create } from 'zustand';
import { usePlayer, type Player } from '../player/player';
import { useSession } from '../reel/session';
import { useHand } from './gesture';
import type { DrawingData, DrawnEffect, FromHand, ToHand } from './messages';

/** The drawing of the effect that the hand is on. */
export const useDrawn = create<{
  of: DrawnEffect | undefined;
  drawing: DrawingData | null | undefined;
}>()(() => ({ of: undefined, drawing: undefined }));

/** Let drafts of a reel be seen and heard; gives what ends that. */
export function connectHand(reel: string, rate: number, player: Player): () => void {
  const worker = new Worker(new URL('./hand.worker.ts', import.meta.url), {
    type: 'module',
    name: 'bathyphon-hand',
  });
  const tell = (message: ToHand, ports: Transferable[] = []) => worker.postMessage(message, ports);
  const { protocol, host } = window.location;
  const scheme = protocol === 'https:' ? 'wss' : 'ws';
  tell({ type: 'open', path: `${scheme}://${host}/api/reels/${reel}/hand`, rate });
  player.onOutput((port) => tell({ type: 'player' }, [port]));

  let serial = 0;
  const drafted = () => {
    const { draft, revision } = useSession.getState();
    if (!draft) return;
    const { commands } = draft;
    const { drawing } = useHand.getState();
    const at = Math.max(0, Math.round(usePlayer.getState().position));
    tell({ type: 'draft', serial, commands, revision, drawing, at });
    if (commands.length) player.makeWay();
  };
  const leave = [
    useSession.subscribe((now, before) => {
      if (now.draft && !before.draft) player.letHand(++serial);
      const revised = now.revision !== before.revision;
      if (now.draft?.commands !== before.draft?.commands || revised) drafted();
      if (now.draft || !before.draft) return;
      tell({ type: 'over' });
      player.letHand(0);
      useDrawn.setState({ of: undefined, drawing: undefined });
      // What has become an edit is heard as one; what has been given up is not heard any longer.
      if (!revised) player.dropDraft();
    }),
    usePlayer.subscribe((now, before) => {
      if (now.loop === before.loop && now.side === before.side) return;
      tell({ type: 'transport', loop: now.loop, treated: now.side === 'treated' });
    }),
  ];
  worker.onmessage = ({ data }: MessageEvent<FromHand>) => {
    if (data.serial !== serial || !useSession.getState().draft) return;
    if (data.type === 'heard') player.noteDraft(data.commands, data.fresh, data.ranges);
    else
      unstable_batchedUpdates(() => {
        const { revision, patch, derived, of, drawing } = data;
        useSession.getState().showDraft({ revision, patch }, derived ?? undefined);
        if (of && sameEffect(useHand.getState().drawing, of)) useDrawn.setState({ of, drawing });
      });
  };
  return () => {
    worker.terminate();
    player.onOutput(undefined);
    for (const l of leave) l();
  };
}

function sameEffect(a: DrawnEffect | undefined, b: DrawnEffect): boolean {
  return a?.owner === b.owner && a.effect === b.effect;
}
