import { Link } from 'react-router';
import { Mark } from './Mark';

/** The mark and the name; the way back to all reels. */
export function Brand() {
  return (
    <Link to="/" className="brand" aria-label="Bathyphon: all reels">
      <Mark />
      <span>Bathyphon</span>
    </Link>
  );
}
