import { Menu } from '@mantine/core';
import { partsOf, useSelection } from '../selected/selection';
import { setLevel } from './level';

/** What can be done to a level in one step, for a clip, a treatment, a track or the mix. */
export function LevelItems({ owner, treated }: { owner: string; treated: boolean }) {
  const kind = owner.split(':')[0];
  return (
    <>
      <Menu.Divider />
      <Menu.Label>Level in one step</Menu.Label>
      {kind !== 'mix' && treated && (
        <Menu.Item onClick={() => void setLevel({ step: 'match_untreated', of: [owner] })}>
          As loud as untreated
        </Menu.Item>
      )}
      {kind !== 'treatment' && <PartItems owner={owner} />}
    </>
  );
}

function PartItems({ owner }: { owner: string }) {
  const kind = owner.split(':')[0];
  const selection = useSelection((s) => s.selection);
  const clips = partsOf(selection).filter((p) => p.kind === 'clip');
  const step = (name: Parameters<typeof setLevel>[0]['step'], value?: number) =>
    void setLevel({ step: name, of: [owner], ...(value === undefined ? {} : { value }) });
  return (
    <>
      <Menu.Item onClick={() => step('normalise')}>Peaks at −1 dBTP</Menu.Item>
      <Menu.Item onClick={() => step('to_loudness', -23)}>Loudness to −23 LUFS</Menu.Item>
      <Menu.Item onClick={() => step('to_loudness', -16)}>Loudness to −16 LUFS</Menu.Item>
      {kind === 'clip' && (
        <>
          <Menu.Item onClick={() => step('match_neighbour')}>As loud as its neighbour</Menu.Item>
          <Menu.Item onClick={() => step('even_out')}>Even out the voice</Menu.Item>
          <Menu.Item onClick={() => step('raise_quiet')}>Raise the quiet words</Menu.Item>
          <Menu.Item
            disabled={clips.length !== 2}
            title="Select both clips: the one whose sheet this is becomes as loud as the other."
            onClick={() =>
              void setLevel({
                step: 'match_part',
                of: [owner],
                other: `clip:${clips.find((c) => `clip:${c.id}` !== owner)?.id}`,
              })
            }
          >
            As loud as the other selected clip
          </Menu.Item>
          <Menu.Item
            disabled={clips.length < 2}
            onClick={() =>
              void setLevel({ step: 'set_alike', of: clips.map((c) => `clip:${c.id}`) })
            }
          >
            Set the selected clips alike
          </Menu.Item>
        </>
      )}
      {kind === 'track' && (
        <Menu.Item onClick={() => step('dip_under_speech')}>Dip under the speech</Menu.Item>
      )}
    </>
  );
}
