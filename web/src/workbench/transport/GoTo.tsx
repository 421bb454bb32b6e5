import { useState } from 'react';
import { usePlayer } from '../../player/player';
import { readMoment } from '../../time/moment';
import { useTools } from '../tools/context';

/** Type where to go: a timecode, or a step such as "+12f". */
export function GoTo() {
  const { clock, player } = useTools();
  const [text, setText] = useState('');
  const [wrong, setWrong] = useState(false);
  const go = () => {
    const at = readMoment(clock, text, usePlayer.getState().position);
    setWrong(at === undefined);
    if (at === undefined) return;
    player.seek(at);
    setText('');
  };
  return (
    <input
      className="number go-to"
      aria-label="Go to a timecode, or a step such as +12f"
      aria-invalid={wrong}
      title={wrong ? 'Write 1:04:10, 00:01:04:10, 64.4s, +12f or -2s' : 'Go to: 1:04:10, +12f, -2s'}
      placeholder="Go to +12f"
      value={text}
      onChange={(e) => {
        setText(e.currentTarget.value);
        setWrong(false);
      }}
      onKeyDown={(e) => {
        if (e.key === 'Enter') {
          e.preventDefault();
          go();
        }
        if (e.key === 'Escape') {
          setText('');
          e.currentTarget.blur();
        }
      }}
    />
  );
}
