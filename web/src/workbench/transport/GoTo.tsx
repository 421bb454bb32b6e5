import { usePlayer } from '../../player/player';
import { momentFrom } from '../../typed/moments';
import { TypedField } from '../fields/TypedField';
import { useTools } from '../tools/context';

/** Type where to go: a timecode, or a step such as "+12f". */
export function GoTo() {
  const { clock, player } = useTools();
  return (
    <TypedField
      className="number go-to"
      label="Go to a timecode, or a step such as +12f"
      title="Go to: 1:04:10, +12f, -2s"
      placeholder="Go to +12f"
      shown=""
      read={(text) => momentFrom(clock, text, usePlayer.getState().position)}
      keep={(at) => player.seek(at)}
    />
  );
}
