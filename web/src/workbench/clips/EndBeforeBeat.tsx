import { Button, Tooltip } from '@mantine/core';
import { usePlayer } from '../../player/player';
import { useSession } from '../../reel/session';
import { useTools } from '../tools/context';
import { useFound } from '../tools/found';

/** One step to the usual ending of music: the clip stops just before the beat after the playhead. */
export function EndBeforeBeat({ clip }: { clip: string }) {
  const { clock, player } = useTools();
  const edit = useSession((s) => s.edit);
  const beats = useFound((found) => found?.beats[clip]);
  const position = usePlayer((s) => (s.playing ? -1 : s.position));
  if (!beats?.length) return null;
  const next = position < 0 ? undefined : beats.find((b) => b > position);
  const end = async () => {
    const done = await edit({ kind: 'end_before_beat', clip, beat: next });
    // What is done next is done at the ending.
    if (done && next !== undefined)
      player.seek(
        clock.sampleOfFrame(
          clock.frameOfSample(next + clock.sampleRate / clock.framesPerSecond / 2),
        ),
      );
  };
  return (
    <Tooltip label="The clip ends just before the first beat after the playhead">
      <Button
        size="compact-sm"
        variant="subtle"
        disabled={next === undefined}
        onClick={() => void end()}
      >
        End before the next beat
      </Button>
    </Tooltip>
  );
}
