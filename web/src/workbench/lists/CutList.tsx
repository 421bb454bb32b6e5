import { ActionIcon, Button, Tooltip } from '@mantine/core';
import { IconArrowLeft, IconArrowRight, IconTrash } from '@tabler/icons-react';
import { usePlayer } from '../../player/player';
import type { Shot } from '../../reel/document';
import { useSession } from '../../reel/session';
import { useTools } from '../tools/context';
import { FindCuts } from './FindCuts';
import { LongList } from '../fields/LongList';
import { TextField } from '../fields/TextField';
import { useReel } from '../../reel/useReel';

export function CutList() {
  const { clock } = useTools();
  const picture = useReel((d) => d.picture);
  const edit = useSession((s) => s.edit);
  const position = usePlayer((s) => (s.playing ? -1 : s.position));
  const cuts = picture?.cuts ?? [];
  const shots = new Map((picture?.shots ?? []).map((s) => [s.frame, s]));
  const here = position < 0 ? -1 : clock.frameOfSample(position);
  return (
    <>
      <div className="list-head">
        <h3>Cuts</h3>
        <Button
          size="compact-xs"
          variant="default"
          disabled={here < 1 || cuts.includes(here)}
          onClick={() => void edit({ kind: 'add_cut', frame: here })}
        >
          Mark a cut at the playhead
        </Button>
      </div>
      <FindCuts />
      {cuts.length === 0 && <p className="quiet">No cuts are marked.</p>}
      <LongList
        count={cuts.length}
        line={(i) => (
          <Line key={cuts[i]} frame={cuts[i]!} number={i + 2} shot={shots.get(cuts[i]!)} />
        )}
      />
    </>
  );
}

function Line({ frame, number, shot }: { frame: number; number: number; shot: Shot | undefined }) {
  const { clock, player } = useTools();
  const edit = useSession((s) => s.edit);
  const at = clock.timecodeOfFrame(frame);
  const move = (by: number) => void edit({ kind: 'move_cut', frame, to: frame + by });
  return (
    <li>
      <button
        type="button"
        className="link number"
        onClick={() => player.seek(clock.sampleOfFrame(frame))}
      >
        {at}
      </button>
      <TextField
        label={`Name of shot ${number}`}
        value={shot?.name ?? ''}
        placeholder={`shot ${number}`}
        save={(name) => void edit({ kind: 'name_shot', frame, name })}
      />
      {shot?.kind && shot.kind !== 'hard' && (
        <span className="quiet small" title={`${shot.kind} of ${shot.length ?? 0} frames`}>
          {shot.kind} {shot.length} f
        </span>
      )}
      <span className="line-tools">
        <Tooltip label="One frame earlier">
          <ActionIcon
            variant="subtle"
            color="gray"
            aria-label={`Move the cut at ${at} one frame earlier`}
            disabled={frame <= 1}
            onClick={() => move(-1)}
          >
            <IconArrowLeft size={15} />
          </ActionIcon>
        </Tooltip>
        <Tooltip label="One frame later">
          <ActionIcon
            variant="subtle"
            color="gray"
            aria-label={`Move the cut at ${at} one frame later`}
            onClick={() => move(1)}
          >
            <IconArrowRight size={15} />
          </ActionIcon>
        </Tooltip>
        <ActionIcon
          variant="subtle"
          color="gray"
          aria-label={`Remove the cut at ${at}`}
          onClick={() => void edit({ kind: 'remove_cut', frame })}
        >
          <IconTrash size={16} />
        </ActionIcon>
      </span>
    </li>
  );
}
