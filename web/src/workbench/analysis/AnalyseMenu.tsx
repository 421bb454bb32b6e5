import { Button, Menu } from '@mantine/core';
import { useSelection } from '../selected/selection';
import { DECAY, useOpened, type Open } from './opened';
import { useKinds } from './useColumns';

interface Props {
  /** `mix`, `track:t1`, `clip:c1` or `treatment:f1`; several of a range's tracks. */
  of: readonly string[];
  range?: Open['range'];
}

/** What can be looked at of a part; it opens in a lane of its own beneath. */
export function AnalyseItems({ of, range }: Props) {
  const kinds = useKinds();
  const open = (kind: string) => openAnalysis(kind, of, range);
  const decays = range !== undefined || /^(clip|treatment):/.test(of[0] ?? '');
  return (
    <>
      {kinds.map((kind) => (
        <Menu.Item key={kind.id} title={kind.help} onClick={() => open(kind.id)}>
          {kind.label}
        </Menu.Item>
      ))}
      {decays && (
        <Menu.Item
          title="How the tail dies away, octave by octave, with T20 and T30."
          onClick={() => open(DECAY)}
        >
          Decay
        </Menu.Item>
      )}
    </>
  );
}

/** Open it, choose it, and bring it into sight. */
export function openAnalysis(kind: string, of: readonly string[], range?: Open['range']) {
  const names = of.map((one) => useOpened.getState().show(kind, one, range));
  const [name] = names;
  if (!name) return;
  useSelection.getState().select({ kind: 'analysis', name });
  requestAnimationFrame(() =>
    requestAnimationFrame(() => {
      const lane = document.querySelector(`[data-analysis="${CSS.escape(name)}"]`);
      lane?.scrollIntoView({ block: 'nearest' });
    }),
  );
}

export function AnalyseMenu(props: Props) {
  return (
    <Menu position="bottom-start" width={200}>
      <Menu.Target>
        <Button size="compact-sm" variant="subtle">
          Analyse ▾
        </Button>
      </Menu.Target>
      <Menu.Dropdown>
        <AnalyseItems {...props} />
      </Menu.Dropdown>
    </Menu>
  );
}
