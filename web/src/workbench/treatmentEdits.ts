/** Edits of the selected treatment, for keys and menus alike. */
import { useMemo } from 'react';
import { usePlayer } from '../player/player';
import type { ReelDocument, Treatment } from '../reel/document';
import { useSession } from '../reel/session';
import { newId } from '../ui/ids';
import { useTools } from './context';
import { clipsOf, useSelection } from './selection';

let copied: string | undefined;

function find(document: ReelDocument | undefined, id: string | undefined): Treatment | undefined {
  return (document?.tracks ?? []).flatMap((t) => t.treatments ?? []).find((t) => t.id === id);
}

export function useTreatmentEdits() {
  const { clock } = useTools();
  return useMemo(() => {
    const session = () => useSession.getState();
    const selection = () => useSelection.getState().selection;
    const chosen = () => {
      const s = selection();
      return s.kind === 'treatment' ? find(session().document, s.id) : undefined;
    };
    const here = () => clock.frameOfSample(usePlayer.getState().position);
    const copies = (id: string, places: Record<string, unknown>[]) => {
      const made = places.map((place) => ({ id: newId('f'), ...place }));
      void session()
        .edit({ kind: 'copy_treatment', id, copies: made })
        .then((done) => {
          const last = made[made.length - 1];
          if (done && last) useSelection.getState().select({ kind: 'treatment', id: last.id });
        });
    };
    const source = () => find(session().document, copied);
    return {
      any: () => chosen() !== undefined,
      copy: () => {
        copied = chosen()?.id;
      },
      copied: () => source() !== undefined,
      /** At the playhead, on the track of the selection or else on its own. */
      paste: () => {
        const t = source();
        if (!t) return false;
        const s = selection();
        const track = s.kind === 'track' ? s.id : s.kind === 'range' ? s.track : undefined;
        const start = s.kind === 'range' ? clock.frameOfSample(s.start) : here();
        copies(t.id, [{ start: { frame: start }, ...(track && { track }) }]);
        return true;
      },
      pasteOnClips: () => {
        const t = source() ?? chosen();
        const clips = clipsOf(selection());
        if (!t || !clips.length) return false;
        copies(
          t.id,
          clips.map((clip) => ({ clip })),
        );
        return true;
      },
      pasteOnMarkers: () => {
        const t = source() ?? chosen();
        const markers = session().document?.markers ?? [];
        if (!t || !markers.length) return false;
        copies(
          t.id,
          markers.map((m) => ({ start: { sample: m.at } })),
        );
        return true;
      },
      duplicate: () => {
        const t = chosen();
        if (t) copies(t.id, [{ start: { sample: t.start + t.length } }]);
      },
      nudge: (frames: number) => {
        const t = chosen();
        if (!t) return;
        const frame = Math.max(0, clock.frameOfSample(t.start) + frames);
        void session().edit({ kind: 'set_treatment', id: t.id, start: { frame } });
      },
      remove: () => {
        const t = chosen();
        if (!t) return;
        useSelection.getState().select({ kind: 'none' });
        void session().edit({ kind: 'remove_treatment', id: t.id });
      },
      order: (by: -1 | 1) => {
        const own = chosen();
        if (!own) return false;
        void session().edit({ kind: 'order_treatment', id: own.id, by });
        return true;
      },
      toCut: (edge: 'start' | 'end') => {
        const t = chosen();
        if (!t) return false;
        void session().edit({ kind: 'stretch_to_cut', id: t.id, edge });
        return true;
      },
    };
  }, [clock]);
}
