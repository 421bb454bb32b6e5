import { CutList } from './CutList';
import { ListFiles } from './ListFiles';
import { MarkerList } from './MarkerList';

/** Markers, cuts, and lists from other programs. */
export function Lists() {
  return (
    <div className="lists">
      <MarkerList />
      <CutList />
      <ListFiles />
    </div>
  );
}
