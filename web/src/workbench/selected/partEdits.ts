/** What is done to all clips and treatments that are selected, by keys and by menu. */
import { notifications } from '@mantine/notifications';
import { useMemo } from 'react';
import { usePlayer } from '../../player/player';
import { atOnce } from '../../hand/gesture';
import { effectsOf, NOTHING, type ReelDocument } from '../../reel/document';
import { useSession, type Command } from '../../reel/session';
import { useTools } from '../tools/context';
import { fadedAt, trimmedAt } from './atPlayhead';
import { copiedParts, keepParts, type Copied } from './copied';
import { copiesAt } from './copies';
import { everything, named, type Laid } from './laid';
import { partsOf, several, useSelection, type Part, type Selection } from './selection';

export function usePartEdits() {
  const { clock } = useTools();
  return useMemo(() => {
    const { getState: session } = useSession;
    const reel = () => session().document ?? NOTHING;
    const selection = () => useSelection.getState().selection;
    const select = (s: Selection) => useSelection.getState().select(s);
    const chosen = () => present(reel(), partsOf(selection()));
    const here = () => clock.sampleOfFrame(clock.frameOfSample(usePlayer.getState().position));
    /** Lay copies, and select them. */
    const lay = (parts: Copied[], moment: number) => {
      const { commands, made } = copiesAt(parts, moment, reel(), session().id);
      // Of many parts there is much to say: too much for a hand's line.
      void session()
        .edit(commands)
        .then((done) => done && select(several(made)));
    };
    const copied = (laid: Laid[]): Copied[] => {
      const paths = new Map(reel().media?.map((m) => [m.id, m.path]));
      return laid.map((one) => ({
        ...one,
        reel: session().id,
        rate: clock.sampleRate,
        ...(one.kind === 'clip' && { path: paths.get(one.part.media) ?? '' }),
      })) as Copied[];
    };
    return {
      any: () => chosen().length > 0,
      nudge: (frames: number) => {
        const moved = movedBy(partsOf(selection()), { frames });
        if (moved.length) void atOnce(moved);
      },
      trim: (edge: 'start' | 'end') => {
        const trimmed = trimmedAt(reel(), partsOf(selection()), edge, here());
        if (!trimmed.length) return false;
        void atOnce(trimmed);
        return true;
      },
      fade: (edge: 'in' | 'out') => {
        const faded = fadedAt(reel(), clock, partsOf(selection()), edge, here());
        if (!faded.length) return false;
        void atOnce(faded);
        return true;
      },
      resetEffects: () => {
        const s = selection();
        const owners =
          s.kind === 'mix'
            ? ['mix']
            : s.kind === 'track'
              ? [`track:${s.id}`]
              : partsOf(s).map((part) => `${part.kind}:${part.id}`);
        const treated = owners.filter((owner) => effectsOf(reel(), owner).length > 0);
        if (!treated.length) return false;
        void atOnce(treated.map((owner) => ({ kind: 'reset_effects', owner })));
        return true;
      },
      copy: () => keepParts(copied(chosen())),
      /** At the playhead, or where the range begins. */
      paste: () => {
        const parts = copiedParts();
        if (!parts.length) return false;
        const other = parts.find((c) => c.rate !== clock.sampleRate);
        if (other) {
          const [from, to] = [other.rate / 1000, clock.sampleRate / 1000];
          const message = `These come from a reel at ${from} kHz; paste them into one at the same rate, not at ${to} kHz.`;
          notifications.show({ message });
          return true;
        }
        const s = selection();
        // Treatments of one track go to the track that is chosen now.
        const onto = s.kind === 'track' ? s.id : s.kind === 'range' ? s.tracks[0] : undefined;
        const moves =
          onto !== undefined &&
          parts.every((c) => c.kind === 'treatment' && c.track === parts[0]!.track);
        const placed = moves
          ? parts.map((c) => ({ ...c, track: onto, reel: session().id }))
          : parts;
        lay(placed, s.kind === 'range' ? s.start : here());
        return true;
      },
      duplicate: () => {
        const parts = chosen();
        const end = Math.max(...parts.map(({ part }) => part.start + part.length));
        if (parts.length) lay(copied(parts), end);
      },
      remove: () => {
        const removed = removing(chosen().map(named));
        if (!removed.length) return;
        select({ kind: 'none' });
        void atOnce(removed);
      },
      /** All of the kinds that are selected; clips, if nothing is. */
      all: () => {
        const kinds = new Set(partsOf(selection()).map((p) => p.kind));
        if (!kinds.size) kinds.add('clip');
        select(
          several(
            everything(reel())
              .filter((laid) => kinds.has(laid.kind))
              .map(named),
          ),
        );
      },
      /** All clips and treatments that a range of tracks touches. */
      within: (range: Extract<Selection, { kind: 'range' }>) => {
        const parts = touched(reel(), range);
        if (parts.length) select(several(parts));
        return parts.length > 0;
      },
    };
  }, [clock]);
}

/** The edits that move parts by the same. */
export function movedBy(
  parts: readonly Part[],
  by: { frames: number } | { samples: number },
): Command[] {
  const [clips, spans] = idsByKind(parts);
  return [
    ...(clips.length ? [{ kind: 'move_clips', ids: clips, ...by }] : []),
    ...(spans.length ? [{ kind: 'bring_along', ids: spans, ...by }] : []),
  ];
}

/** What a range of tracks touches, in the order in which it lies. */
export function touched(
  document: ReelDocument,
  range: { tracks: string[]; start: number; end: number },
): Part[] {
  return everything(document)
    .filter(
      ({ track, part }) =>
        range.tracks.includes(track) &&
        part.start < range.end &&
        range.start < part.start + part.length,
    )
    .map(named);
}

function removing(parts: readonly Part[]): Command[] {
  const [clips, spans] = idsByKind(parts);
  return [
    ...(clips.length ? [{ kind: 'remove_clips', ids: clips }] : []),
    ...(spans.length ? [{ kind: 'remove_treatments', ids: spans }] : []),
  ];
}

/** Ids of clips, and of treatments. */
function idsByKind(parts: readonly Part[]): [string[], string[]] {
  const ids = (kind: Part['kind']) => parts.filter((p) => p.kind === kind).map((p) => p.id);
  return [ids('clip'), ids('treatment')];
}

function present(document: ReelDocument, parts: Part[]): Laid[] {
  const there = new Map(everything(document).map((laid) => [`${laid.kind}:${laid.part.id}`, laid]));
  return parts.flatMap(({ kind, id }) => there.get(`${kind}:${id}`) ?? []);
}
