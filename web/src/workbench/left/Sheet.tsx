import { useSession } from '../../reel/session';
import { Button } from '@mantine/core';
import { findChain, trackOfOwner } from '../../reel/document';
import { AnalysisSheet } from '../analysis/AnalysisSheet';
import { openGuide } from '../guide/progress';
import { KeySheet } from '../lanes/KeySheet';
import { LaneTable } from '../lanes/LaneTable';
import { partsOf, useSelection } from '../selected/selection';
import { countText } from '../selected/together';
import { ChainSheet } from '../treatments/ChainSheet';
import { RangeSheet } from '../treatments/RangeSheet';
import { useReel } from '../../reel/useReel';

/** The editor for what is selected. */
export function Sheet() {
  const selection = useSelection((s) => s.selection);
  const ready = useSession((s) => s.document !== undefined);
  if (!ready) return null;
  if (selection.kind === 'keys') return <KeySheet />;
  if (selection.kind === 'lane') return <LaneTable name={selection.lane} />;
  if (selection.kind === 'analysis')
    return <AnalysisSheet key={selection.name} name={selection.name} />;
  if (selection.kind === 'range') return <RangeSheet stretch={selection} />;
  if (selection.kind === 'mix') return <Found key="mix" owner="mix" id="mix" />;
  if (selection.kind !== 'none') {
    const owner = `${selection.kind}:${selection.id}`;
    return (
      <>
        <Several />
        <Found key={owner} owner={owner} id={selection.id} />
      </>
    );
  }
  return <Nothing />;
}

/** That what is done here is done to several parts. */
function Several() {
  const { selection, select } = useSelection();
  const [shown, ...others] = partsOf(selection);
  if (!shown || others.length === 0) return null;
  return (
    <div className="several">
      <p className="small">
        Together with {countText(others)}: what you change here changes for all that have it.
      </p>
      <Button size="compact-xs" variant="default" onClick={() => select(shown)}>
        Only this one
      </Button>
    </div>
  );
}

/** The sheet of a chain, as long as it is there. */
function Found({ owner, id }: { owner: string; id: string }) {
  const there = useReel((d) => Boolean(findChain(d, owner)));
  const track = useReel((d) => trackOfOwner(d, owner)?.id);
  if (!there || (owner !== 'mix' && track === undefined)) return <Nothing />;
  return <ChainSheet owner={owner} track={track} id={id} />;
}

function Nothing() {
  return (
    <div className="pad">
      <p>Nothing is selected.</p>
      <p className="quiet">
        Drag along a track to take a range, then treat it: it follows the cuts, nothing is split.
        Click a clip to treat the whole clip; its echo rings on past its end.
      </p>
      <Button size="compact-sm" variant="default" onClick={openGuide}>
        First steps
      </Button>
    </div>
  );
}
