import { ActionIcon, Button, Tooltip } from '@mantine/core';
import { IconTrash } from '@tabler/icons-react';
import { usePlayer } from '../../player/player';
import { useSession } from '../../reel/session';
import { useWorkbench } from '../context';

/** Cuts and markers; a click goes there. */
export function Lists() {
  const { document, clock, player } = useWorkbench();
  const edit = useSession((s) => s.edit);
  const position = usePlayer((s) => (s.playing ? -1 : s.position));
  const cuts = document.picture?.cuts ?? [];
  const here = position < 0 ? -1 : clock.frameOfSample(position);
  return (
    <div className="lists">
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
      {cuts.length === 0 && <p className="quiet">No cuts are marked.</p>}
      <ul>
        {cuts.map((frame, i) => (
          <li key={frame}>
            <button
              type="button"
              className="link number"
              onClick={() => player.seek(clock.sampleOfFrame(frame))}
            >
              {clock.timecodeOfFrame(frame)}
            </button>
            <span className="quiet">
              shot {i + 1} to {i + 2}
            </span>
            <Tooltip label="Remove this cut">
              <ActionIcon
                variant="subtle"
                color="gray"
                aria-label={`Remove the cut at ${clock.timecodeOfFrame(frame)}`}
                onClick={() => void edit({ kind: 'remove_cut', frame })}
              >
                <IconTrash size={16} />
              </ActionIcon>
            </Tooltip>
          </li>
        ))}
      </ul>
      <h3>Markers</h3>
      {(document.markers ?? []).length === 0 && <p className="quiet">There are no markers.</p>}
      <ul>
        {(document.markers ?? []).map((marker) => (
          <li key={marker.id}>
            <button type="button" className="link number" onClick={() => player.seek(marker.at)}>
              {clock.timecode(marker.at)}
            </button>
            <span>{marker.label}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}
