import { Button, FileButton, Progress } from '@mantine/core';
import { useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { client, unwrap, type MediaLine } from '../../api/client';
import type { Medium, PictureClip, Track } from '../../reel/document';
import { bringIn } from '../../reel/importing';
import { useSession } from '../../reel/session';
import { useSelection } from '../selected/selection';
import { Listen } from './Listen';
import { MediumWave } from './MediumWave';
import { useLaying, type Part } from './laying';
import { BeatControls } from './BeatControls';
import { reelNow, useReel } from '../../reel/useReel';

/** One file of the reel: what it is, how it sounds or looks, where it is used. */
export function MediumCard({ medium, line }: { medium: Medium; line: MediaLine | undefined }) {
  const tracks = useReel((d) => d.tracks);
  const rate = useReel((d) => d.sample_rate);
  const picture = useReel((d) => d.picture?.clips);
  const places = usesOf(tracks, picture, medium.id);
  const select = useSelection((s) => s.select);
  const converting = useSession((s) => s.derived?.converting);
  const edit = useSession((s) => s.edit);
  const [part, setPart] = useState<Part | undefined>();
  const laying = useLaying(medium, line, part);
  const sound = line?.info.sound;
  const strip = line?.info.picture?.strip;
  // An entry that one goes to by Tab; Enter lays it, as its own button does.
  /* eslint-disable jsx-a11y/no-noninteractive-element-interactions, jsx-a11y/no-noninteractive-tabindex */
  return (
    <li
      className="medium"
      data-medium={medium.id}
      tabIndex={0}
      aria-label={medium.path}
      onKeyDown={(e) => {
        if (e.key !== 'Enter' || e.target !== e.currentTarget) return;
        e.preventDefault();
        e.stopPropagation();
        laying.atPlayhead();
      }}
    >
      <span className="media-name" title={medium.path}>
        {medium.path}
      </span>
      {strip && line && (
        <span
          className="medium-frame"
          style={{
            width: strip.width,
            height: strip.height,
            backgroundImage: `url(/api/media/${line.id}/strip.jpg)`,
            backgroundPosition: `-${(Math.floor(strip.count / 2) % strip.columns) * strip.width}px -${Math.floor(Math.floor(strip.count / 2) / strip.columns) * strip.height}px`,
          }}
        />
      )}
      {sound && line && <MediumWave line={line} part={part} choose={setPart} lay={laying.begin} />}
      <Facts line={line} place={medium.place === true} />
      {line && converting?.includes(line.id) && (
        <span className="quiet small">
          is being converted from {line.rate / 1000} to {rate / 1000} kHz; until then it is silent
        </span>
      )}
      {sound && line && <BeatControls medium={medium} line={line} />}
      {sound && line && (
        <span className="medium-lay">
          <Button size="compact-xs" variant="default" onClick={laying.atPlayhead}>
            {part ? 'Lay the part' : 'Lay'} at the playhead
          </Button>
          {part && (
            <span className="quiet small number">
              {((part[1] - part[0]) / rate).toFixed(2)} s of it
            </span>
          )}
          <Listen media={line.id} name={medium.path} />
        </span>
      )}
      <span className="medium-foot">
        <span className="quiet small">
          {places.length === 0
            ? 'not used'
            : `used in ${places.length} ${places.length === 1 ? 'place' : 'places'}`}
        </span>
        {places[0] && places[0] !== 'picture' && (
          <Button
            size="compact-xs"
            variant="subtle"
            onClick={() => select({ kind: 'clip', id: places[0]! })}
          >
            Show
          </Button>
        )}
        <Replace medium={medium} />
        {places.length === 0 && (
          <Button
            size="compact-xs"
            variant="subtle"
            onClick={() => void edit({ kind: 'remove_medium', id: medium.id })}
          >
            Remove
          </Button>
        )}
      </span>
    </li>
  );
}

function usesOf(tracks: Track[] = [], picture: PictureClip[] = [], id: string): string[] {
  const clips = tracks.flatMap((t) => t.clips ?? []);
  const seen = picture.some((c) => c.media === id);
  return [...clips.filter((c) => c.media === id).map((c) => c.id), ...(seen ? ['picture'] : [])];
}

/** Another file in this one's place; every edit stays. */
function Replace({ medium }: { medium: Medium }) {
  const edit = useSession((s) => s.edit);
  const queries = useQueryClient();
  const [share, setShare] = useState<number | undefined>();
  const [trouble, setTrouble] = useState('');
  const again = useRef<() => void>(null);
  const replace = async (file: File | null) => {
    if (!file) return;
    setTrouble('');
    try {
      const stop = new AbortController();
      const line = await bringIn(
        file,
        reelNow().sample_rate,
        (s) => setShare(s.share),
        stop.signal,
      );
      await queries.invalidateQueries({ queryKey: ['media'] });
      await edit({ kind: 'relink_medium', id: medium.id, to: line.id, path: line.name });
    } catch (error) {
      setTrouble((error as Error).message);
    } finally {
      setShare(undefined);
    }
  };
  return (
    <>
      <FileButton
        resetRef={again}
        onChange={(file) => {
          again.current?.();
          void replace(file);
        }}
      >
        {(props) => (
          <Button {...props} size="compact-xs" variant="subtle" loading={share !== undefined}>
            {medium.place ? 'Choose its file…' : 'Replace…'}
          </Button>
        )}
      </FileButton>
      {trouble && <span className="bad-text">{trouble}</span>}
    </>
  );
}

function Facts({ line, place }: { line: MediaLine | undefined; place: boolean }) {
  const queries = useQueryClient();
  if (place)
    return (
      <span className="quiet small">An empty place: nothing plays here until it has a file.</span>
    );
  if (!line)
    return <span className="bad-text">Missing: nothing plays where it is used. Replace it.</span>;
  const ask = (what: 'retry' | 'cancel') =>
    void unwrap(
      what === 'retry'
        ? client.POST('/api/media/{id}/retry', { params: { path: { id: line.id } } })
        : client.POST('/api/media/{id}/cancel', { params: { path: { id: line.id } } }),
    ).then(() => queries.invalidateQueries({ queryKey: ['media'] }));
  if (line.state === 'failed' || line.state === 'cancelled')
    return (
      <span className={line.state === 'failed' ? 'bad-text' : 'quiet small'}>
        {line.state === 'failed' ? line.error : 'Its preparation was stopped.'}{' '}
        <Button size="compact-xs" variant="default" onClick={() => ask('retry')}>
          {line.state === 'failed' ? 'Try again' : 'Prepare it'}
        </Button>
      </span>
    );
  const { sound, picture, seconds } = line.info;
  const parts = seconds ? [`${seconds.toFixed(1)} s`] : [];
  if (picture)
    parts.push(`${picture.width}×${picture.height}, ${picture.rate.replace('/1', '')} fps`);
  if (sound)
    parts.push(
      `${sound.source_rate / 1000} kHz, ${sound.channels === 1 ? 'mono' : sound.channels === 2 ? 'stereo' : `${sound.channels} channels`}`,
    );
  if (sound?.loudness != null) parts.push(`${sound.loudness.toFixed(1).replace('-', '−')} LUFS`);
  if (line.info.timecode) parts.push(`starts at ${line.info.timecode}`);
  if (sound?.not_finite) parts.push(`${sound.not_finite} damaged samples silenced`);
  return (
    <>
      {parts.length > 0 && <span className="quiet small number">{parts.join(' · ')}</span>}
      {line.state !== 'ready' && (
        <span className="medium-preparing">
          <span className="quiet small">
            {line.state === 'waiting'
              ? 'waits to be prepared'
              : `${line.info.sound ? 'picture' : 'being'} prepared, ${Math.round(line.progress * 100)} %`}
          </span>
          <Progress value={line.progress * 100} aria-label="Prepared" />
          <Button size="compact-xs" variant="subtle" onClick={() => ask('cancel')}>
            Stop
          </Button>
        </span>
      )}
    </>
  );
}
