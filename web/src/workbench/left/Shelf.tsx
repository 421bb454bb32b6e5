import { FileButton, Button, Progress } from '@mantine/core';
import { useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { client, Refusal, unwrap, type MediaLine } from '../../api/client';
import { bringIn, soundTrack, type ImportStep } from '../../reel/importing';
import { useSession } from '../../reel/session';
import { useWorkbench } from '../context';

/** The reel's media, and bringing in more. */
export function Shelf() {
  const { document, media, clock } = useWorkbench();
  const { edit } = useSession();
  const queries = useQueryClient();
  const [step, setStep] = useState<ImportStep | undefined>();
  const [trouble, setTrouble] = useState('');
  const stop = useRef<AbortController>(undefined);

  const add = async (files: File[]) => {
    setTrouble('');
    stop.current = new AbortController();
    for (const file of files) {
      try {
        const line = await bringIn(file, document.sample_rate, setStep, stop.current.signal);
        await queries.invalidateQueries({ queryKey: ['media'] });
        await edit({ kind: 'add_medium', medium: { id: line.id, path: line.name } });
        if (line.info.picture && !(document.picture?.clips ?? []).length) {
          const length = clock.sampleOfFrame(line.info.picture.frames);
          const clips = [{ media: line.id, start: 0, length, source_start: 0 }];
          await edit({ kind: 'set_picture', clips });
        }
        if (line.info.sound)
          for (const command of soundTrack(line, Boolean(line.info.picture))) await edit(command);
      } catch (error) {
        setTrouble((error as Error).message);
        if (error instanceof Refusal && error.status === 0) break;
      }
    }
    setStep(undefined);
  };

  return (
    <div className="shelf">
      <FileButton multiple onChange={(files) => void add(files)}>
        {(props) => (
          <Button {...props} size="xs" variant="default" loading={step !== undefined}>
            Bring in files…
          </Button>
        )}
      </FileButton>
      {step && (
        <div role="status" className="shelf-step">
          <span>{step.text}</span>
          <Progress value={step.share * 100} aria-label="Progress" />
          <Button size="compact-xs" variant="subtle" onClick={() => stop.current?.abort()}>
            Cancel
          </Button>
        </div>
      )}
      {trouble && (
        <p className="trouble" role="alert">
          {trouble}
        </p>
      )}
      <ul>
        {(document.media ?? []).map((medium) => (
          <li key={medium.id}>
            <span className="media-name" title={medium.path}>
              {medium.path}
            </span>
            <Facts line={media.get(medium.id)} />
          </li>
        ))}
      </ul>
    </div>
  );
}

function Facts({ line }: { line: MediaLine | undefined }) {
  const queries = useQueryClient();
  if (!line) return <span className="bad-text">missing</span>;
  if (line.state === 'failed')
    return (
      <span className="bad-text">
        {line.error}{' '}
        <Button
          size="compact-xs"
          variant="default"
          onClick={() =>
            void unwrap(
              client.POST('/api/media/{id}/retry', { params: { path: { id: line.id } } }),
            ).then(() => queries.invalidateQueries({ queryKey: ['media'] }))
          }
        >
          Try again
        </Button>
      </span>
    );
  if (line.state !== 'ready')
    return <span className="quiet">preparing {Math.round(line.progress * 100)} %</span>;
  const { sound, picture, seconds } = line.info;
  const parts = [`${seconds.toFixed(1)} s`];
  if (picture)
    parts.push(`${picture.width}×${picture.height}, ${picture.rate.replace('/1', '')} fps`);
  if (sound)
    parts.push(
      `${sound.source_rate / 1000} kHz, ${sound.channels === 1 ? 'mono' : sound.channels === 2 ? 'stereo' : `${sound.channels} channels`}`,
    );
  if (sound?.not_finite) parts.push(`${sound.not_finite} damaged samples silenced`);
  return <span className="quiet small number">{parts.join(' · ')}</span>;
}
