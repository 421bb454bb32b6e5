import { NativeSelect } from '@mantine/core';
import type { EffectTable } from '../../api/client';
import type { Params } from '../../reel/document';
import { useTools } from '../tools/context';
import { useReel } from '../../reel/useReel';

interface Props {
  table: EffectTable;
  params: Params;
  /** Id of the track that the effect is on, which cannot be listened to. */
  own: string | undefined;
  commit: (id: string, value: string | null) => void;
}

/** Which track an effect listens to, or which medium it works with. */
export function ReferenceField({ table, params, own, commit }: Props) {
  const { media } = useTools();
  const tracks = useReel((d) => d.tracks);
  const list = useReel((d) => d.media);
  const reference = table.reference!;
  const choices =
    reference.to === 'track'
      ? (tracks ?? [])
          .filter((t) => t.id !== own)
          .map((t) => ({ value: t.id, label: t.name || 'Track' }))
      : (list ?? [])
          .map((m) => ({ value: m.id, label: media.get(m.id)?.name ?? m.path }))
          .filter(({ value }) => media.get(value)?.info.sound !== null);
  const value = params[reference.id];
  return (
    <NativeSelect
      size="xs"
      label={reference.label}
      description={reference.help}
      value={typeof value === 'string' ? value : ''}
      data={[
        { value: '', label: reference.to === 'track' ? 'Choose a track …' : 'None' },
        ...choices,
      ]}
      onChange={(e) => commit(reference.id, e.currentTarget.value || null)}
    />
  );
}
