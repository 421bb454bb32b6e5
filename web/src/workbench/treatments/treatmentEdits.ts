/** Edits of the selected treatment, for keys and menus alike. */
import { useMemo } from 'react';
import type { ReelDocument, Treatment } from '../../reel/document';
import { atOnce } from '../../hand/gesture';
import { useSession } from '../../reel/session';
import { newId } from '../../ui/ids';
import { copiedLast, copiedParts } from '../selected/copied';
import { clipsOf, treatmentsOf, useSelection } from '../selected/selection';

function find(document: ReelDocument | undefined, id: string | undefined): Treatment | undefined {
  return (document?.tracks ?? []).flatMap((t) => t.treatments ?? []).find((t) => t.id === id);
}

export function useTreatmentEdits() {
  return useMemo(() => {
    const session = () => useSession.getState();
    const selection = () => useSelection.getState().selection;
    const chosen = () => {
      const s = selection();
      return find(session().document, treatmentsOf(s)[0]);
    };
    const copies = (id: string, places: Record<string, unknown>[]) => {
      const made = places.map((place) => ({ id: newId('f'), ...place }));
      void atOnce({ kind: 'copy_treatment', id, copies: made }).then((done) => {
        const last = made[made.length - 1];
        if (done && last) useSelection.getState().select({ kind: 'treatment', id: last.id });
      });
    };
    /** The treatment that was copied last, if it is still there, or else the selected one. */
    const source = () => {
      const copied = copiedLast() === 'parts' ? copiedParts() : [];
      const last = copied.find((c) => c.kind === 'treatment');
      return find(session().document, last?.part.id) ?? chosen();
    };
    return {
      pasteOnClips: () => {
        const t = source();
        const clips = clipsOf(selection());
        if (!t || !clips.length) return false;
        copies(
          t.id,
          clips.map((clip) => ({ clip })),
        );
        return true;
      },
      pasteOnMarkers: () => {
        const t = source();
        const markers = session().document?.markers ?? [];
        if (!t || !markers.length) return false;
        copies(
          t.id,
          markers.map((m) => ({ start: { sample: m.at } })),
        );
        return true;
      },
      order: (by: -1 | 1) => {
        const own = chosen();
        if (!own) return false;
        void atOnce({ kind: 'order_treatment', id: own.id, by });
        return true;
      },
      toCut: (edge: 'start' | 'end') => {
        const t = chosen();
        if (!t) return false;
        void atOnce({ kind: 'stretch_to_cut', id: t.id, edge });
        return true;
      },
    };
  }, []);
}
