import { Findings } from '../listening/Findings';
import { CutList } from './CutList';
import { ListFiles } from './ListFiles';
import { MarkerList } from './MarkerList';

/** Findings, markers, cuts, and lists from other programs. */
export function Lists() {
  return (
    <div className="lists">
      <Findings />
      <MarkerList />
      <CutList />
      <ListFiles />
    </div>
  );
}
