import { Button, Checkbox, Modal, NativeSelect } from '@mantine/core';
import { useState } from 'react';
import { effectsOf } from '../../../reel/document';
import { useSession } from '../../../reel/session';
import { reelNow } from '../../../reel/useReel';
import { newId } from '../../../ui/ids';
import { useAsked } from '../../tools/asked';
import { partsOf, useSelection } from '../selection';
import { copyPlaces } from './places';
import './copying.css';

const WHAT = [
  { id: 'treatment', label: 'Effects' },
  { id: 'fades', label: 'Fades' },
  { id: 'level', label: 'Level' },
] as const;

/** What the selected part has, on many others in one step. */
export function CopyDialog() {
  const opened = useAsked((s) => s.asked?.what === 'copy-to');
  const close = () => useAsked.getState().ask(undefined);
  return (
    <Modal
      opened={opened}
      onClose={close}
      title="Copy to…"
      transitionProps={{ duration: 0 }}
      returnFocus
    >
      <Asking close={close} />
    </Modal>
  );
}

function Asking({ close }: { close: () => void }) {
  const edit = useSession((s) => s.edit);
  const [source, ...others] = partsOf(useSelection.getState().selection);
  const [places] = useState(() => (source ? copyPlaces(reelNow(), source, others) : []));
  const [chosen, choose] = useState(0);
  const treated = source && effectsOf(reelNow(), `${source.kind}:${source.id}`).length > 0;
  const [what, setWhat] = useState<string[]>(treated ? ['treatment'] : ['fades', 'level']);
  const place = places[chosen];
  if (!source || !place)
    return <p>Nothing else is there to copy to: no other clip, no named shot, no marker.</p>;
  const copy = async () => {
    const owner = `${source.kind}:${source.id}`;
    const command = { kind: 'copy_to', source: owner, what, to: place.to, id: newId('f') };
    if (await edit(command)) close();
  };
  return (
    <form
      className="copying"
      onSubmit={(e) => {
        e.preventDefault();
        void copy();
      }}
    >
      {source.kind === 'clip' ? (
        <Checkbox.Group value={what} onChange={setWhat} label="What">
          <div className="copying-what">
            {WHAT.map(({ id, label }) => (
              <Checkbox
                key={id}
                value={id}
                label={label}
                disabled={id === 'treatment' && !treated}
              />
            ))}
          </div>
        </Checkbox.Group>
      ) : (
        <p className="small">
          The treatment with its ramps. Over clips and shots it takes their length; at markers it
          keeps its own.
        </p>
      )}
      <NativeSelect
        label="To"
        data={places.map(({ label }, index) => ({ value: String(index), label }))}
        value={String(chosen)}
        onChange={(e) => choose(Number(e.currentTarget.value))}
        data-autofocus
      />
      {source.kind === 'clip' && (
        <p className="quiet small">
          Theirs are replaced by these; fades keep their frames. What you leave out stays as it is.
        </p>
      )}
      <Button type="submit" disabled={source.kind === 'clip' && what.length === 0}>
        Copy
      </Button>
    </form>
  );
}
