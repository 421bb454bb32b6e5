/** What each command does, by its id. One that finds nothing to act on answers false. */
import { useMemo } from 'react';
import { usePlayer } from '../../player/player';
import { useSession } from '../../reel/session';
import { useClipEdits } from '../clips/clipEdits';
import { openGuide } from '../guide/progress';
import { useTools } from '../tools/context';
import { useKeyEdits } from '../keyframes/keyEdits';
import { useOpenLanes } from '../keyframes/openLanes';
import { usePartEdits } from '../selected/partEdits';
import { openAnalysis } from '../analysis/AnalyseMenu';
import { useAdvice } from '../tools/advice';
import { walkPresets } from '../effects/presetWalk';
import { walkOwn } from '../presets/walking';
import { begin, flip } from '../listening/blind';
import { setLevel, type Step } from '../listening/level';
import { ownerOf, partsOf, useSelection, type Selection } from '../selected/selection';
import { useView } from '../axis/view';
import { useTransport } from '../transport/transport';
import { copiedLast, noteCopied, type Kind } from '../selected/copied';
import { nextPart } from '../selected/walk';
import { useTreatmentEdits } from '../treatments/treatmentEdits';
import { useAsked } from '../tools/asked';
import type { CommandId } from '../keys/table';

const ZOOM = 1.4;
const RAISE = 0.01;
const RAISE_DB = 0.5;

export type Commands = Record<CommandId, () => unknown>;

export function useCommands(): Commands {
  const { player, effects } = useTools();
  const transport = useTransport();
  const clips = useClipEdits();
  const keys = useKeyEdits();
  const parts = usePartEdits();
  const treatments = useTreatmentEdits();
  return useMemo(() => {
    const selection = () => useSelection.getState().selection;
    const select = (s: Selection) => useSelection.getState().select(s);
    const ask = useAsked.getState().ask;
    const zoom = (factor: number) => {
      const { start, scale, width } = useView.getState();
      const px = (usePlayer.getState().position - start) / scale;
      useView.getState().zoom(factor, px >= 0 && px <= width ? px : width / 2);
    };
    /** The first kind of thing that is selected and can do it. */
    const first = (...ways: [() => boolean, () => unknown][]) => {
      const found = ways.find(([any]) => any());
      return found ? found[1]() : false;
    };
    const move = (frames: number) =>
      first([keys.any, () => keys.nudge(frames)], [parts.any, () => parts.nudge(frames)]);
    const copying = (kind: Kind, copy: () => void) => () => {
      copy();
      noteCopied(kind);
    };
    const copy = () =>
      first([keys.any, copying('keys', keys.copy)], [parts.any, copying('parts', parts.copy)]);
    const remove = () => first([keys.any, () => keys.remove()], [parts.any, parts.remove]);
    const raise = (sign: number) =>
      first(
        [keys.any, () => keys.raise(sign * RAISE)],
        [clips.any, () => clips.raise(sign * RAISE_DB)],
      );
    const lane = (value: 'gain_db' | 'pan') => {
      const s = selection();
      if (s.kind === 'track') useOpenLanes.getState().toggle(`track:${s.id}/${value}`);
      else if (s.kind === 'clip' && value === 'gain_db')
        useOpenLanes.getState().toggle(`clip:${s.id}/gain_db`);
      else if (s.kind === 'mix' && value === 'gain_db')
        useOpenLanes.getState().toggle('mix/gain_db');
      else return false;
      return true;
    };
    const level = (step: Step) => {
      const s = selection();
      if (s.kind !== 'mix' && !('id' in s)) return false;
      if (s.kind === 'treatment' && step !== 'match_untreated') return false;
      void setLevel({ step, of: [s.kind === 'mix' ? 'mix' : `${s.kind}:${s.id}`] });
      return true;
    };
    const look = (kind: string) => {
      const s = selection();
      if (s.kind === 'range')
        openAnalysis(
          kind,
          s.tracks.map((id) => `track:${id}`),
          { start: s.start, end: s.end },
        );
      else openAnalysis(kind, [ownerOf(s) ?? 'mix']);
      return true;
    };
    const toPart = (by: 1 | -1) => {
      const reel = useSession.getState().document;
      const next = reel && nextPart(reel, selection(), usePlayer.getState().position, by);
      if (!next) return false;
      select(next);
      // What is selected has the focus, so that its own keys work.
      const mark = `[data-${next.kind}="${CSS.escape(next.id)}"]`;
      const focused = document.querySelector<HTMLElement>(`${mark}[tabindex], ${mark} [tabindex]`);
      focused?.focus();
      focused?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
      return true;
    };
    const toTrack = (by: number) => {
      const tracks = useSession.getState().document?.tracks ?? [];
      const s = selection();
      const now = tracks.findIndex((t) => s.kind === 'track' && t.id === s.id);
      const next = tracks[Math.max(0, Math.min(tracks.length - 1, now < 0 ? 0 : now + by))];
      if (next) select({ kind: 'track', id: next.id });
    };
    return {
      play: () => player.toggle(),
      'around-cut': transport.aroundCut,
      side: () => flip(player),
      advice: () => useAdvice.getState().toggle(),
      'preset-back': () => walkOwn(player, -1) || walkPresets(player, effects, -1),
      'preset-on': () => walkOwn(player, 1) || walkPresets(player, effects, 1),
      'analyse-spectrum': () => look('spectrum'),
      'analyse-wave': () => look('wave'),
      'analyse-loudness': () => look('loudness'),
      'analyse-stereo': () => look('stereo'),
      'analyse-pitch': () => look('pitch'),
      'analyse-decay': () => look('decay'),
      difference: () =>
        player.setSide(usePlayer.getState().side === 'difference' ? 'treated' : 'difference'),
      blind: () => begin(player),
      normalise: () => level('normalise'),
      'match-untreated': () => level('match_untreated'),
      loop: transport.toggleLoop,
      speed: () => {
        const { speed } = usePlayer.getState();
        player.setSpeed(speed === 1 ? 2 : speed === 2 ? 0.5 : 1);
      },
      'frame-back': () => transport.step(-1),
      'frame-on': () => transport.step(1),
      'five-back': () => transport.step(-5),
      'five-on': () => transport.step(5),
      'cut-back': () => transport.toCut(-1),
      'cut-on': () => transport.toCut(1),
      'marker-back': () => transport.toMarker(-1),
      'marker-on': () => transport.toMarker(1),
      'onset-back': () => transport.toOnset(-1),
      'onset-on': () => transport.toOnset(1),
      'beat-back': () => transport.toBeat(-1),
      'beat-on': () => transport.toBeat(1),
      'part-back': () => toPart(-1),
      'part-on': () => toPart(1),
      'key-back': () => keys.walk(-1),
      'key-on': () => keys.walk(1),
      start: () => player.seek(0),
      end: () => player.seek(Number.MAX_SAFE_INTEGER),
      'track-back': () => toTrack(-1),
      'track-on': () => toTrack(1),
      'zoom-selection': () => transport.zoomTo('selection'),
      'zoom-all': () => transport.zoomTo('all'),
      'zoom-in': () => zoom(1 / ZOOM),
      'zoom-out': () => zoom(ZOOM),
      undo: () => useSession.getState().undoLast(),
      redo: () => useSession.getState().redoLast(),
      copy,
      'first-steps': openGuide,
      'copy-to': () => partsOf(selection()).length > 0 && void ask('copy-to'),
      take: () => {
        if (copy() === false) return false;
        return remove();
      },
      paste: () => {
        // What was copied last, whatever lane is open.
        return copiedLast() === 'keys' ? keys.paste() : parts.paste();
      },
      'paste-clips': treatments.pasteOnClips,
      'paste-markers': treatments.pasteOnMarkers,
      duplicate: () => first([parts.any, parts.duplicate]),
      remove,
      'remove-gap': () => first([clips.any, clips.removeWithGap]),
      split: clips.split,
      join: () => first([clips.any, clips.join]),
      'select-all': () => {
        const s = selection();
        if (s.kind === 'range') return keys.within(s.start, s.end) || parts.within(s);
        // Of the kind that is selected; with nothing selected, of the lane that was worked on last.
        if (s.kind === 'keys') return keys.all();
        if (s.kind === 'none' && useOpenLanes.getState().inHand) return keys.all();
        return parts.all();
      },
      nothing: () => {
        transport.forgetRange();
        select({ kind: 'none' });
      },
      'move-back': () => move(-1),
      'move-on': () => move(1),
      'move-five-back': () => move(-5),
      'move-five-on': () => move(5),
      raise: () => raise(1),
      lower: () => raise(-1),
      'keys-in-range': () => {
        const s = selection();
        return s.kind === 'range' && keys.within(s.start, s.end);
      },
      'order-back': () => treatments.order(-1),
      'order-on': () => treatments.order(1),
      'fit-cut': () => clips.any() && clips.fit('cut'),
      'fit-gap': () => clips.any() && clips.fit('gap'),
      'own-speed': () => clips.any() && clips.resetSpeed(false),
      'reset-speed-and-pitch': () => clips.any() && clips.resetSpeed(true),
      'trim-start': () => parts.trim('start'),
      'trim-end': () => parts.trim('end'),
      'fade-in': () => parts.fade('in'),
      'fade-out': () => parts.fade('out'),
      'slip-back': () => clips.slip(-1),
      'slip-on': () => clips.slip(1),
      keyframe: keys.put,
      soften: () => keys.any() && keys.change('soften_keyframes', { by: 1 }),
      sharpen: () => keys.any() && keys.change('soften_keyframes', { by: -1 }),
      reverse: () => keys.any() && keys.change('reverse_keyframes'),
      thin: () => keys.any() && keys.change('thin_keyframes'),
      unlink: () => keys.any() && keys.change('unlink_keyframes'),
      'lane-level': () => lane('gain_db'),
      'lane-pan': () => lane('pan'),
      range: transport.markRange,
      'add-effect': () => {
        // A range that has been begun ends here.
        transport.endRange();
        ask('add-effect');
      },
      'to-cut': () => treatments.toCut('end'),
      'from-cut': () => treatments.toCut('start'),
      marker: transport.dropMarker,
      'beat-markers': () => transport.markBeats(1),
      'beat-markers-2': () => transport.markBeats(2),
      'beat-markers-4': () => transport.markBeats(4),
      'reset-effects': () => parts.resetEffects(),
      search: () => ask('search'),
      keys: () => ask('keys'),
      export: () => ask('export'),
    };
  }, [player, effects, transport, clips, keys, parts, treatments]);
}
