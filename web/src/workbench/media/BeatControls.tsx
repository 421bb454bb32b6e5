import { Button, Tooltip } from '@mantine/core';
import type { MediaLine } from '../../api/client';
import { usePlayer } from '../../player/player';
import type { Medium } from '../../reel/document';
import { useSession } from '../../reel/session';
import { useBeatsShown, useFound } from '../tools/found';
import { useReel } from '../../reel/useReel';

/** A sound's tempo: show its beats, count twice or half as fast, set one at the playhead. */
export function BeatControls({ medium, line }: { medium: Medium; line: MediaLine }) {
  const tracks = useReel((d) => d.tracks);
  const edit = useSession((s) => s.edit);
  const { beats, toggle } = useBeatsShown();
  const found = useFound((all) => all);
  const sound = line.info.sound;
  if (!sound || sound.onsets == null) return null;
  if (sound.tempo == null) return <span className="quiet small">no steady beat</span>;
  const factor = medium.beats?.factor ?? 1;
  const tempo = sound.tempo * factor;

  const setHere = () => {
    const { position } = usePlayer.getState();
    const clip = (tracks ?? [])
      .flatMap((t) => t.clips ?? [])
      .find((c) => c.media === medium.id && position >= c.start && position < c.start + c.length);
    const own = clip && found?.beats[clip.id];
    if (!own?.length) return;
    const nearest = own.reduce((a, b) => (Math.abs(b - position) < Math.abs(a - position) ? b : a));
    const shift = (medium.beats?.shift ?? 0) + position - nearest;
    void edit({ kind: 'set_beats', id: medium.id, shift });
  };
  return (
    <span className="beats-line">
      <span className="number">{tempo.toFixed(2)} BPM</span>
      <Button size="compact-xs" variant={beats ? 'filled' : 'default'} onClick={toggle}>
        {beats ? 'Beats shown' : 'Show beats'}
      </Button>
      <Tooltip label="Count half as fast">
        <Button
          size="compact-xs"
          variant="default"
          disabled={factor <= 0.25}
          aria-label={`÷2: count the beats of ${medium.path} half as fast`}
          onClick={() => void edit({ kind: 'set_beats', id: medium.id, factor: factor / 2 })}
        >
          ÷2
        </Button>
      </Tooltip>
      <Tooltip label="Count twice as fast">
        <Button
          size="compact-xs"
          variant="default"
          disabled={factor >= 4}
          aria-label={`×2: count the beats of ${medium.path} twice as fast`}
          onClick={() => void edit({ kind: 'set_beats', id: medium.id, factor: factor * 2 })}
        >
          ×2
        </Button>
      </Tooltip>
      <Tooltip label="Shift the beats so that one falls on the playhead">
        <Button size="compact-xs" variant="default" onClick={setHere}>
          Beat here
        </Button>
      </Tooltip>
    </span>
  );
}
