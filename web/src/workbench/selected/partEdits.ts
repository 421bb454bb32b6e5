/** What is done to all clips and treatments that are selected, by keys and by menu. */
import { notifications } from '@mantine/notifications';
import { useMemo } from 'react';
import { usePlayer } from '../../player/player';
import { NOTHING, type Clip, type ReelDocument, type Treatment } from '../../reel/document';
import { useSession, type Command } from '../../reel/session';
import { newId } from '../../ui/ids';
import { useTools } from '../tools/context';
import { copiedParts, keepParts, type Copied } from './copied';
import { partsOf, several, useSelection, type Part, type Selection } from './selection';

/** A part with the track that it lies on. */
type Laid = { track: string } & (
  { kind: 'clip'; part: Clip } | { kind: 'treatment'; part: Treatment }
);

export function usePartEdits() {
  const { clock } = useTools();
  return useMemo(() => {
    const { getState: session } = useSession;
    const reel = () => session().document ?? NOTHING;
    const selection = () => useSelection.getState().selection;
    const select = (s: Selection) => useSelection.getState().select(s);
    const chosen = () => present(reel(), partsOf(selection()));
    /** Edit, then select what it has made. */
    const make = (commands: Command[], made: Part[]) =>
      void session()
        .edit(commands)
        .then((done) => done && select(several(made)));
    const here = () => clock.sampleOfFrame(clock.frameOfSample(usePlayer.getState().position));

    /** The edits that lay copies, the earliest at a moment, and what they make. */
    const laying = (parts: Copied[], moment: number) => {
      const { id: own } = session();
      const known = new Map(everything(reel()).map((laid) => [laid.part.id, laid]));
      const tracks = new Set(reel().tracks?.map((t) => t.id));
      const first = Math.min(...parts.map((c) => c.part.start));
      const after = (list: Copied[]) =>
        Math.min(Infinity, ...list.map((c) => c.part.start)) - first;
      const made = { id: newId('t'), name: 'Pasted' };
      const trackOf = (c: Copied) => (c.reel === own && tracks.has(c.track) ? c.track : made.id);
      const clips = parts.filter((c) => c.kind === 'clip');
      const spans = parts.filter((c) => c.kind === 'treatment');
      const fresh = [
        ...clips.map((): Part => ({ kind: 'clip', id: newId('c') })),
        ...spans.map((): Part => ({ kind: 'treatment', id: newId('f') })),
      ];
      const commands: Command[] = [];
      if (parts.some((c) => trackOf(c) === made.id))
        commands.push({ kind: 'add_track', track: made });
      const there = clips.every((c) => c.reel === own && known.get(c.part.id)?.kind === 'clip');
      const at = { sample: moment + (clips.length ? after(clips) : 0) };
      const news = fresh.slice(0, clips.length).map((p) => p.id);
      if (clips.length && there)
        commands.push({ kind: 'copy_clips', ids: clips.map((c) => c.part.id), new: news, at });
      else commands.push(...broughtIn(clips, news, at.sample, reel(), trackOf));
      if (spans.length)
        commands.push({
          kind: 'paste_treatments',
          at: { sample: moment },
          by: after(spans),
          parts: spans.map((c, i) => ({
            track: trackOf(c),
            id: fresh[clips.length + i]!.id,
            treatment: c.part,
          })),
        });
      return { commands, made: fresh };
    };
    const lay = (parts: Copied[], moment: number) => {
      const { commands, made } = laying(parts, moment);
      make(commands, made);
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
        if (moved.length) void session().edit(moved);
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
        const parts = chosen();
        const removed = removing(parts);
        if (!removed.length) return;
        select({ kind: 'none' });
        void session().edit(removed);
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
  const ids = (kind: Part['kind']) => parts.filter((p) => p.kind === kind).map((p) => p.id);
  const [clips, spans] = [ids('clip'), ids('treatment')];
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

function removing(parts: Laid[]): Command[] {
  const clips = parts.filter((p) => p.kind === 'clip').map((p) => p.part.id);
  return [
    ...(clips.length ? [{ kind: 'remove_clips', ids: clips, close_gap: false }] : []),
    ...parts
      .filter((p) => p.kind === 'treatment')
      .map(({ part }) => ({ kind: 'remove_treatment', id: part.id })),
  ];
}

/** Clips of another reel, or that are no longer there: their media come along. */
function broughtIn(
  clips: Extract<Copied, { kind: 'clip' }>[],
  ids: string[],
  at: number,
  document: ReelDocument,
  trackOf: (c: Copied) => string,
): Command[] {
  const listed = new Set(document.media?.map((m) => m.id));
  const media = new Map(clips.map((c) => [c.part.media, c.path]));
  const first = Math.min(...clips.map((c) => c.part.start));
  return [
    ...[...media]
      .filter(([id]) => !listed.has(id))
      .map(([id, path]) => ({ kind: 'add_medium', medium: { id, path } })),
    ...clips.map((c, i) => ({
      kind: 'add_clip',
      track: trackOf(c),
      clip: { ...c.part, id: ids[i], start: at + c.part.start - first, tie: undefined },
    })),
  ];
}

const named = ({ kind, part }: Laid): Part => ({ kind, id: part.id });

function everything(document: ReelDocument): Laid[] {
  return (document.tracks ?? []).flatMap((t) => [
    ...(t.clips ?? []).map((part) => ({ kind: 'clip' as const, part, track: t.id })),
    ...(t.treatments ?? []).map((part) => ({ kind: 'treatment' as const, part, track: t.id })),
  ]);
}

function present(document: ReelDocument, parts: Part[]): Laid[] {
  const there = new Map(everything(document).map((laid) => [`${laid.kind}:${laid.part.id}`, laid]));
  return parts.flatMap(({ kind, id }) => there.get(`${kind}:${id}`) ?? []);
}
