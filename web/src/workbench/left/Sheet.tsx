import { useSession } from '../../reel/session';
import { findChain, trackOf } from '../../reel/document';
import { useWorkbench } from '../context';
import { KeySheet } from '../lanes/KeySheet';
import { LaneTable } from '../lanes/LaneTable';
import { useSelection } from '../selection';
import { ChainSheet } from './ChainSheet';
import { RangeSheet } from './RangeSheet';

/** The editor for what is selected. */
export function Sheet() {
  const { document } = useWorkbench();
  const selection = useSelection((s) => s.selection);
  const ready = useSession((s) => s.document !== undefined);
  if (!ready) return null;
  if (selection.kind === 'keys') return <KeySheet />;
  if (selection.kind === 'lane') return <LaneTable name={selection.lane} />;
  if (selection.kind === 'range') return <RangeSheet stretch={selection} />;
  if (selection.kind === 'treatment' || selection.kind === 'clip') {
    const owner = `${selection.kind}:${selection.id}`;
    const found = findChain(document, owner);
    const list = selection.kind === 'treatment' ? 'treatments' : 'clips';
    const track = trackOf(document, list, selection.id);
    if (found && track)
      return <ChainSheet key={owner} owner={owner} found={found} track={track} id={selection.id} />;
  }
  if (selection.kind === 'track' || selection.kind === 'mix') {
    const owner = selection.kind === 'mix' ? 'mix' : `track:${selection.id}`;
    const id = selection.kind === 'mix' ? 'mix' : selection.id;
    const found = findChain(document, owner);
    const track = (document.tracks ?? []).find((t) => t.id === id);
    if (found) return <ChainSheet key={owner} owner={owner} found={found} track={track} id={id} />;
  }
  return (
    <div className="pad">
      <p>Nothing is selected.</p>
      <p className="quiet">
        Drag along a track to take a range, then treat it: it follows the cuts, nothing is split.
        Click a clip to treat the whole clip; its echo rings on past its end.
      </p>
    </div>
  );
}
