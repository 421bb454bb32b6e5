import { Button, Progress } from '@mantine/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { client, unwrap } from '../../../api/client';
import { useSession } from '../../../reel/session';
import { reelNow } from '../../../reel/useReel';
import { OpenLine } from '../../fields/OpenLine';
import { TypedField } from '../../fields/TypedField';
import { Listen } from '../../media/Listen';
import { useTools } from '../../tools/context';
import { InContext } from '../InContext';
import { bringFolder, useBringing } from './bringing';
import { LONGEST_TRIED_S, layOwn, OWN, ownFound, ownLaid, type Own } from './own';

/** Sounds that one has taken in oneself: brought in by the folder, tagged, listened to, laid. */
export function OwnSounds({ text }: { text: string }) {
  const { data } = useQuery(ownFound(text));
  const queries = useQueryClient();
  const [open, setOpen] = useState<string | undefined>();
  const refresh = () => void queries.invalidateQueries({ queryKey: [OWN] });
  if (!data) return <p className="quiet">Loading…</p>;
  const more = data.total - data.sounds.length;
  return (
    <>
      <Bring refresh={refresh} />
      {data.total === 0 && (
        <p className="quiet">
          {text
            ? `None of your sounds matches “${text}”.`
            : 'None yet. Bring in a folder: its sounds are there in every reel.'}
        </p>
      )}
      <ul>
        {data.sounds.map((sound) => (
          <OwnSound
            key={sound.id}
            sound={sound}
            open={open === sound.id}
            toggle={() => setOpen(open === sound.id ? undefined : sound.id)}
            refresh={refresh}
          />
        ))}
      </ul>
      {more > 0 && <p className="quiet small">And {more} more: type another word.</p>}
    </>
  );
}

function OwnSound(props: { sound: Own; open: boolean; toggle: () => void; refresh: () => void }) {
  const { sound, open, toggle, refresh } = props;
  const { clock } = useTools();
  const queries = useQueryClient();
  const tell = useSession((s) => s.tell);
  const [busy, setBusy] = useState(false);
  const attempt = (work: () => Promise<unknown>) =>
    void work()
      .catch((error: unknown) => tell((error as Error).message))
      .finally(() => setBusy(false));
  const lay = () => {
    setBusy(true);
    attempt(() => layOwn(queries, sound.id, clock));
  };
  const path = { params: { path: { id: sound.id } } };
  return (
    <OpenLine
      label={sound.name}
      help={[sound.folder, ...sound.tags].filter(Boolean).join(' · ')}
      open={open}
      toggle={toggle}
      enter={lay}
      after={<Listen media={sound.id} name={sound.name} />}
    >
      <div className="sound-body">
        <p className="quiet small">{factsOf(sound)}</p>
        <div className="preset-words">
          <span className="small">Tags</span>
          <TypedField
            className="text-field"
            label="Tags"
            shown={sound.tags.join(', ')}
            read={(typed) => ({ value: typed })}
            keep={(typed) =>
              attempt(async () => {
                const tags = typed.split(',').map((word) => word.trim());
                await unwrap(client.PATCH('/api/sounds/own/{id}', { ...path, body: { tags } }));
                refresh();
              })
            }
          />
        </div>
        <InContext
          name={sound.name}
          bed={false}
          loudness={sound.loudness}
          seconds={Math.min(LONGEST_TRIED_S, sound.seconds ?? LONGEST_TRIED_S)}
          laid={() => ownLaid(sound.id, clock)}
        />
        <span className="sound-tools">
          <Button size="compact-sm" loading={busy} onClick={lay}>
            Lay at the playhead
          </Button>
          <Button
            size="compact-sm"
            variant="subtle"
            color="var(--bad)"
            onClick={() =>
              attempt(async () => {
                await unwrap(client.DELETE('/api/sounds/own/{id}', path));
                refresh();
              })
            }
          >
            Take off the shelf
          </Button>
        </span>
      </div>
    </OpenLine>
  );
}

function factsOf({ state, error, seconds, loudness }: Own): string {
  if (state === 'failed') return error;
  const facts = [
    seconds === null ? '' : `${seconds.toFixed(1)} s`,
    loudness === null ? '' : `${loudness.toFixed(1)} LUFS`.replace('-', '−'),
  ].filter(Boolean);
  return facts.join(' · ') || 'Being prepared…';
}

/** Choosing a folder, and how far its files have come. */
function Bring({ refresh }: { refresh: () => void }) {
  const input = useRef<HTMLInputElement>(null);
  const { all, come, refused, stop } = useBringing();
  // React knows no attribute for it.
  useEffect(() => input.current?.setAttribute('webkitdirectory', ''), []);
  const choose = (files: FileList | null) => {
    if (files) void bringFolder([...files], reelNow().sample_rate, refresh);
    if (input.current) input.current.value = '';
  };
  return (
    <div className="sound-tools">
      <input
        ref={input}
        type="file"
        multiple
        hidden
        aria-label="Folder of sounds"
        onChange={(e) => choose(e.currentTarget.files)}
      />
      {stop ? (
        <>
          <Progress value={(100 * come) / Math.max(1, all)} aria-label="Sounds that have come" />
          <span className="quiet small" role="status">
            {come} of {all}
          </span>
          <Button size="compact-sm" variant="default" onClick={() => stop.abort()}>
            Stop
          </Button>
        </>
      ) : (
        <Button size="compact-sm" variant="default" onClick={() => input.current?.click()}>
          Bring in a folder…
        </Button>
      )}
      {refused.length > 0 && (
        <p className="bad-text" role="alert">
          {refused[0]}
          {refused.length > 1 && ` And ${refused.length - 1} more could not be taken in.`}
        </p>
      )}
    </div>
  );
}
