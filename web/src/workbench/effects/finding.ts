/** Effects and presets found by what is typed; the server reads the line, see core/typed. */
import { useDebouncedValue } from '@mantine/hooks';
import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import { client, unwrap, type EffectTable, type Schemas } from '../../api/client';
import { newId } from '../../ui/ids';
import type { Command } from '../../reel/session';
import type { Known } from '../../typed/values';
import type { FoundLine } from '../fields/Finder';
import { useKnownTimes } from '../tools/knownTimes';

/** Nobody reads what a word was that is still being typed. */
const SETTLE_MS = 60;

export type Hit = Schemas['HitLine'];

function asking(text: string, { f, beat }: Known) {
  const query = { text, ...(f ? { frame: f } : {}), ...(beat ? { beat } : {}) };
  return {
    queryKey: ['effects', 'found', query],
    // Not given up when nobody watches any more: Enter may be waiting for it.
    queryFn: () => unwrap(client.GET('/api/effects/found', { params: { query } })),
    staleTime: Infinity,
  };
}

/** What a line may mean, as far as it has been answered; `sure` waits for the answer to all of it. */
export function useFinding(text: string, open: boolean) {
  const known = useKnownTimes();
  const queries = useQueryClient();
  const [settled] = useDebouncedValue(text, SETTLE_MS);
  const { data, isPlaceholderData } = useQuery({
    ...asking(settled, known),
    enabled: open,
    placeholderData: keepPreviousData,
  });
  return {
    hits: data?.hits ?? [],
    unknown: data?.unknown ?? [],
    answered: data !== undefined,
    /** It has not been answered yet, or answers fewer letters. */
    stale: data === undefined || isPlaceholderData || settled !== text,
    sure: () => queries.fetchQuery(asking(text, known)),
  };
}

/** A hit as a list shows it. */
export function lineOf(hit: Hit): FoundLine {
  const why = hit.why && `${hit.why.charAt(0).toUpperCase()}${hit.why.slice(1)}.`;
  return {
    key: `${hit.effect}-${hit.preset.replace(/\W/g, '-')}`,
    label: hit.label,
    help: hit.said || hit.help,
    ...(why ? { why } : {}),
  };
}

/** An effect to be added: as a preset sets it, and then as the line says. */
export interface Wanted {
  effect: { id: string; kind: string; bypass: false; params: Record<string, number | string> };
  name: string;
  /** Frames of the ramps, in and out. */
  ramps: { in?: number; out?: number };
  /** The edits that set it once it is there, in its owner's chain. */
  after: (owner: string) => Command[];
}

/** An effect as it comes. */
export function plainly(table: EffectTable): Wanted {
  const effect = { id: newId('e'), kind: table.id, bypass: false, params: table.added } as const;
  return { effect, name: table.label, ramps: {}, after: () => [] };
}

/** The edit that gives a treatment the ramps that were typed. */
export function rampEdits(id: string, ramps: Wanted['ramps']): Command[] {
  const { in: first, out: last } = ramps;
  const given = {
    ...(first === undefined ? {} : { ramp_in: { frames: first } }),
    ...(last === undefined ? {} : { ramp_out: { frames: last } }),
  };
  return Object.keys(given).length ? [{ kind: 'set_treatment', id, ...given }] : [];
}

export function wantedOf(hit: Hit): Wanted {
  const id = newId('e');
  const { effect: kind, preset, values } = hit;
  return {
    effect: { id, kind, bypass: false, params: preset ? {} : values },
    name: preset || hit.label,
    ramps: hit.ramps,
    after: (owner) =>
      preset
        ? [
            { kind: 'apply_preset', owner, id, preset },
            ...(Object.keys(values).length
              ? [{ kind: 'set_effect', owner, id, params: values }]
              : []),
          ]
        : [],
  };
}
