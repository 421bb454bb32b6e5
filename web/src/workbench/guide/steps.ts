/** First steps: what one does once to know how all of it works, and how that is noticed. */
import type { Chain, ReelDocument } from '../../reel/document';

/** What there is to notice. */
export interface Seen {
  document: ReelDocument;
  /** Seconds that have been played since the step began. */
  heard: number;
  /** Whether the playhead stands at a cut. */
  atCut: boolean;
  /** The sample at the playhead. */
  position: number;
  /** Whether it is heard without the treatments. */
  untreated: boolean;
}

export interface Step {
  id: string;
  title: string;
  how: string;
  /** Whether it has been done, seen from when the step began. */
  done: (now: Seen, then: Seen) => boolean;
}

const LEAST_SECONDS = 3;
const ROOMS = new Set(['reverb', 'space', 'echo']);

export const STEPS: readonly Step[] = [
  {
    id: 'listen',
    title: 'Listen to the reel',
    how: 'Press Space, or the Play button. Press it again to stop.',
    done: (now) => now.heard >= LEAST_SECONDS,
  },
  {
    id: 'cut',
    title: 'Go to a cut',
    how: 'The arrow keys up and down go from cut to cut.',
    done: (now, then) => now.atCut && now.position !== then.position,
  },
  {
    id: 'treat',
    title: 'Treat a stretch between two cuts',
    how:
      'Drag along the lower half of a track from cut to cut, then choose an effect on the left: ' +
      'a muffle, say, where it goes under water.',
    done: (now, then) => treated(now.document) > treated(then.document),
  },
  {
    id: 'turn',
    title: 'Change it while it plays',
    how: 'Turn one of its values, or pull a grip in its drawing. You hear it while you do.',
    done: (now, then) => turned(now.document, then.document),
  },
  {
    id: 'compare',
    title: 'Hear what it was before',
    how: 'T switches between treated and untreated, and back again.',
    done: (now) => now.untreated,
  },
  {
    id: 'ring',
    title: 'Let something ring past a cut',
    how: 'Select a clip and add a reverb or an echo: it rings on past the clip’s end.',
    done: (now, then) => rooms(now.document) > rooms(then.document),
  },
  {
    id: 'bed',
    title: 'Lay a bed under a shot',
    how:
      'Under Media & sounds, Sounds: search for water or wind, listen, and lay it. It lies from ' +
      'cut to cut.',
    done: (now, then) => beds(now.document) > beds(then.document),
  },
  {
    id: 'recipe',
    title: 'Let a recipe do a known job',
    how:
      'Under Media & sounds, Recipes: ring out at a cut, a voice on the radio, below the ' +
      'surface. Try it before you use it.',
    done: (now, then) => recipes(now.document) > recipes(then.document),
  },
];

function chains(document: ReelDocument): Chain[] {
  const own = (document.tracks ?? []).flatMap((track) => [
    track.treatment,
    ...(track.treatments ?? []),
    ...(track.clips ?? []).map((clip) => clip.treatment),
  ]);
  return [document.mix?.treatment, ...own].filter((chain) => chain !== undefined);
}

const effects = (document: ReelDocument) => chains(document).flatMap((c) => c.effects ?? []);

const treated = (document: ReelDocument) =>
  (document.tracks ?? [])
    .flatMap((track) => track.treatments ?? [])
    .filter((span) => (span.effects ?? []).length > 0).length;

const rooms = (document: ReelDocument) =>
  effects(document).filter((effect) => ROOMS.has(effect.kind)).length;

const beds = (document: ReelDocument) =>
  (document.tracks ?? []).flatMap((track) => track.clips ?? []).filter((clip) => clip.bed).length;

const recipes = (document: ReelDocument) => document.made?.length ?? 0;

/** Whether an effect that was there has other values now. */
function turned(now: ReelDocument, then: ReelDocument): boolean {
  const before = new Map(effects(then).map((e) => [e.id, JSON.stringify(e.params ?? {})]));
  return effects(now).some((e) => {
    const was = before.get(e.id);
    return was !== undefined && was !== JSON.stringify(e.params ?? {});
  });
}
